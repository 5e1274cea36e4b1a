import { isOfAll } from "../chart/figure-texts";
import { PANEL_CHANNELS } from "../chart/panels";
import { queriesOf } from "../chart/piece-formulas";
import type { ChartPlan, DataTablePlan, FigurePlan, LayerPlan, NotePlan } from "../chart/plan";
import { type SortedName, sortQueries } from "../chart/questions";
import type { Asked } from "../link/engine";
import { isSummed } from "../mark/bars";
import type { Model } from "../model/model";
import type { Plan, PlanPiece } from "../plan/plan";
import type { Channel } from "../query/query";
import type { SheetValue } from "../sheet/edit/edit";
import { CHANNEL_KEYS } from "../sheet/piece-keys";
import type { ChartSpec, LayerSpec } from "../sheet/schema-charts";
import type { Path } from "../sheet/tree";
import { type Column, gather } from "../table/column";
import { oneAfterTheOther } from "../table/one-after-other";
import { makeTable, type Table } from "../table/table";
import { ColumnNames, type GroupTable, GroupWriter, type SaidOf } from "./group-writer";

/** A value of the sheet to write, or a key to take away. */
export interface SheetChange {
  path: Path;
  value?: SheetValue;
}

/** A piece drawn from tables of its groups: the tables, and what of the sheet is different then. */
export interface Regrouped {
  tables: GroupTable[];
  changes: SheetChange[];
}

/** True for a piece whose groups were packed in place of rows. */
export const isFinished = ({ plan }: PlanPiece): boolean =>
  queriesOf(plan).some(({ finished }) => finished !== undefined);

interface Regrouping {
  piece: PlanPiece;
  model: Model;
  saidOf: SaidOf;
  /** A name for the next table of the piece. */
  nameTable: () => string;
}

/** What a sheet says of a piece, drawn from what was packed of it. */
export function regroup(regrouping: Regrouping, spec: ChartSpec | undefined): Regrouped {
  const { plan } = regrouping.piece;
  if (plan.type === "chart") return regroupChart(regrouping, plan, spec as ChartSpec);
  if (plan.type === "table") return regroupList(regrouping, plan, spec as ChartSpec);
  if (plan.type === "figure") return regroupFigure(regrouping, plan);
  return regroupNote(regrouping, plan as NotePlan);
}

const writerOf = ({ model, saidOf }: Regrouping, asked: Asked | undefined, names: ColumnNames) =>
  new GroupWriter(asked as Asked, model, names, saidOf);

function regroupNote(regrouping: Regrouping, { query }: NotePlan): Regrouped {
  const { piece, model } = regrouping;
  const writer = writerOf(regrouping, model.askedBy(piece.name)[0], new ColumnNames());
  const path = ["notes", piece.name];
  const gets = Object.keys(query.channels).map((name) => ({
    path: [...path, "get", name],
    value: writer.formula(name),
  }));
  const table = writer.table(regrouping.nameTable());
  return { tables: [table], changes: [{ path: [...path, "from"], value: table.name }, ...gets] };
}

function regroupFigure(regrouping: Regrouping, { query, spark }: FigurePlan): Regrouped {
  const { piece, model } = regrouping;
  const path = ["charts", piece.name];
  const [asked] = model.askedBy(piece.name);
  const names = new ColumnNames();
  const whole = writerOf(regrouping, asked, names);
  const line = spark && writerOf(regrouping, { query: spark, options: { fillAlong: "x" }, filters: [] }, names);
  // Of a sum the groups of the small line are enough.
  const isSumOfLine = line !== undefined && isSummed(query.channels.value);
  const writer = isSumOfLine ? line : whole;
  const changes = Object.entries(query.channels).map(([key, { formula, aggregate }]) => {
    const own = writer.formula(key);
    const value = line && !isSumOfLine && aggregate ? own.replace(/^\w+/, "last") : own;
    return { path: [...path, key], value: isOfAll(formula) ? `${value} of all` : value };
  });
  if (line) {
    for (const channel of Object.keys(line.channels)) line.formula(channel);
    changes.push({ path: [...path, "spark"], value: line.formula("x") });
  }
  const name = regrouping.nameTable();
  const table = line && !isSumOfLine ? behind(line.table(name), whole.table(name)) : writer.table(name);
  return { tables: [table], changes: [...newSource(path, table.name), ...changes] };
}

/** The groups of a small line, and behind them those of its figure, which stand at no place along the line. */
function behind(line: GroupTable, whole: GroupTable): GroupTable {
  const count = line.table.rowCount + whole.table.rowCount;
  const names = new Set([...line.table.columns.keys(), ...whole.table.columns.keys()]);
  const columns = [...names].map((name) => [name, columnsBehind(line.table, whole.table, name)] as const);
  return { name: line.name, table: makeTable(count, columns), columns: { ...whole.columns, ...line.columns } };
}

/** One column behind another, missing where a table has none. */
function columnsBehind(first: Table, second: Table, name: string): Column {
  const [above, below] = [first.columns.get(name), second.columns.get(name)];
  if (above) return oneAfterTheOther(above, below, second.rowCount);
  const rows = Int32Array.from({ length: first.rowCount + second.rowCount }, (_, row) => row - first.rowCount);
  return gather(
    below as Column,
    rows.map((row) => Math.max(-1, row)),
  );
}

function regroupList(regrouping: Regrouping, { columns }: DataTablePlan, spec: ChartSpec): Regrouped {
  const { piece, model } = regrouping;
  const path = ["charts", piece.name];
  const writer = writerOf(regrouping, model.askedBy(piece.name)[0], new ColumnNames());
  const value = columns.map(({ channel, key }) => writer.shown(channel, key));
  const table = writer.table(regrouping.nameTable());
  // A list without a title of its own has that of its rows, which are others now.
  const title = spec.title === undefined ? [{ path: [...path, "title"], value: piece.words.title }] : [];
  const dropped = spec.identity === undefined ? [] : [{ path: [...path, "identity"] }];
  return {
    tables: [table],
    changes: [...newSource(path, table.name), ...dropped, ...title, { path: [...path, "columns"], value }],
  };
}

/** Another table under the same channels; what was kept of the old one is what is there. */
const newSource = (path: Path, table: string): SheetChange[] => [
  { path: [...path, "keep"] },
  { path: [...path, "from"], value: table },
];

function regroupChart(regrouping: Regrouping, plan: ChartPlan, spec: ChartSpec): Regrouped {
  const { piece, model } = regrouping;
  const path = ["charts", piece.name];
  const names = new ColumnNames();
  const asked = model.askedBy(piece.name);
  const writers = plan.layers.map((_, at) => writerOf(regrouping, asked[at], names));
  const changes: SheetChange[] = plan.layers.flatMap((layer, at) =>
    layerChanges(layer, writers[at] as GroupWriter, plan.layered ? [...path, "layers", at] : path),
  );
  const [first] = writers as [GroupWriter];
  changes.push(...sortChanges(plan, first, asked.slice(plan.layers.length), model, path));
  changes.push(...panelChanges(plan, first, spec, path));
  const tables = writers.map((writer) => writer.table(regrouping.nameTable()));
  for (const [at, { name }] of tables.entries())
    changes.push(...(plan.layered ? newSource([...path, "layers", at], name) : newSource(path, name)));
  if (plan.layered) changes.push(...newSource(path, tables[0]?.name ?? ""), ...inheritedChanges(plan, spec, path));
  return { tables, changes };
}

/** The channels of a layer, each where the layer itself is written. */
function layerChanges({ query, tooltip, says }: LayerPlan, writer: GroupWriter, path: Path): SheetChange[] {
  const written = CHANNEL_KEYS.filter((key) => {
    const channel: Channel | undefined = query.channels[key];
    return channel !== undefined && !channel.constant;
  });
  const changes: SheetChange[] = written.map((key) => ({ path: [...path, key], value: writer.formula(key) }));
  if (tooltip) changes.push({ path: [...path, "tooltip"], value: tooltip.map((name) => writer.formula(name)) });
  // A line of the author's own words, with formulas in braces.
  const words = says?.map((part) =>
    typeof part === "object" && "channel" in part ? `{${writer.formula(part.channel)}}` : part,
  );
  if (words) changes.push({ path: [...path, "tooltip"], value: words.join("") });
  return changes;
}

/** What a chart says for layers that say it themselves now; looks that are the same for all marks stay. */
function inheritedChanges({ layers }: ChartPlan, spec: ChartSpec, path: Path): SheetChange[] {
  const own = (spec.layers ?? []) as readonly LayerSpec[];
  const isLook = (key: (typeof CHANNEL_KEYS)[number]) =>
    layers.some(
      ({ looks, query }, at) => own[at]?.[key] === undefined && (key in looks || query.channels[key]?.constant),
    );
  const channels = CHANNEL_KEYS.filter((key) => spec[key] !== undefined && !isLook(key));
  const tooltip = spec.tooltip === undefined || spec.tooltip === "none" ? [] : ["tooltip"];
  return [...channels, ...tooltip].map((key) => ({ path: [...path, key] }));
}

function sortChanges(
  plan: ChartPlan,
  writer: GroupWriter,
  sorts: readonly Asked[],
  model: Model,
  path: Path,
): SheetChange[] {
  return (Object.keys(sortQueries(plan)) as SortedName[]).map((axis, at) => {
    const sort = plan.sort[axis];
    const formula = writer.sortedBy(axis, sorts[at] as Asked, model);
    const isDescending = sort && "by" in sort && sort.descending;
    return { path: [...path, "sort", axis], value: isDescending ? `-${formula}` : formula };
  });
}

/** Small charts are told apart by a formula, or by one of several keys. */
function panelChanges({ layers }: ChartPlan, writer: GroupWriter, { panels }: ChartSpec, path: Path): SheetChange[] {
  const channels = layers[0]?.query.channels ?? {};
  return PANEL_CHANNELS.filter((name) => name in channels).map((name) => {
    const key = typeof panels === "string" ? [] : [name === "panel" ? "by" : name];
    return { path: [...path, "panels", ...key], value: writer.formula(name) };
  });
}

/** What the rows of a table are called. */
export const nounOf = ({ tables }: Plan, table: string): string =>
  tables.find(({ name }) => name === table)?.label ?? table.replaceAll("_", " ");
