import type { LayerPlan } from "../chart/plan";
import { type Formula, withoutPlaces } from "../formula/tree";
import { isGrouping } from "../mark/channels";
import type { Channel, Query } from "../query/query";
import type { Path } from "../sheet/tree";
import type { Kind } from "../table/column";
import type { Table } from "../table/table";
import { formatProblem } from "./channels";
import { addFinding, type BuiltTable, type Compiling, checkedFormula } from "./compiling";
import { bareColumn } from "./steps";

/** A chart, figure or data table on its way into the plan. */
export interface Place {
  compiling: Compiling;
  name: string;
  path: Path;
  built: BuiltTable;
}

/** The table from which a layer of a piece is drawn: its own, else that of the piece. */
export const tableOf = ({ compiling, built }: Place, layer: Pick<LayerPlan, "query"> | undefined): Table =>
  (layer && compiling.tables.get(layer.query.from)?.table) ?? built.table;

/** Adds a finding of the piece, at one of its keys or elsewhere in it; answers nothing. */
export function wrongAt(
  place: Pick<Place, "compiling" | "name">,
  path: Path,
  code: string,
  message: string,
): undefined {
  addFinding(place.compiling, path, code, message, { piece: place.name });
  return undefined;
}

/** True if values of a kind can be written so; else a finding says how they can. */
export function checkFormat(place: Place, path: Path, kind: Kind, format: string | undefined): boolean {
  const problem = format === undefined ? undefined : formatProblem(kind, format);
  if (problem !== undefined) wrongAt(place, path, "wrong-format", problem);
  return problem === undefined;
}

export function keepFormula(
  { compiling, name, built }: Place,
  path: Path,
  text: string | undefined,
): { sound: boolean; keep?: Formula } {
  if (text === undefined || text === "none") return { sound: true };
  const checked = checkedFormula(compiling, path, text, built.name, built.table, { piece: name, wanted: "boolean" });
  return checked ? { sound: true, keep: withoutPlaces(checked.formula) } : { sound: false };
}

/** True if a column stands beside an aggregate without being a key, which is found wrong. */
export function refuseBare(place: Place, path: Path, channel: Channel, keys: ReadonlySet<string>): boolean {
  const bare = bareColumn(channel.formula, keys);
  if (bare === undefined) return false;
  const wayOut = bare.startsWith("picked(")
    ? "write it inside the aggregate"
    : "take one with sum(), mean(), first(), or make it a channel of its own";
  wrongAt(place, path, "bare-column", `${bare} has several values beside an aggregate; ${wayOut}`);
  return true;
}

/** The query of some channels: grouped by those without an aggregate, as soon as one has one. */
export function queryOf(
  place: Place,
  channels: Record<string, Channel>,
  pathOf: (channel: string) => Path,
  keep: Formula | undefined,
  groups: (channel: string) => boolean = isGrouping,
): Query | undefined {
  const grouped = Object.values(channels).some((channel) => channel.aggregate);
  const groupBy = grouped ? Object.keys(channels).filter((name) => !channels[name]?.aggregate && groups(name)) : [];
  const keys = new Set(groupBy.map((name) => channels[name]?.text as string));
  if (grouped) {
    for (const [name, channel] of Object.entries(channels))
      if (channel.aggregate && refuseBare(place, pathOf(name), channel, keys)) return undefined;
  }
  return { from: place.built.name, channels, groupBy, grouped, ...(keep ? { keep } : {}) };
}
