import type { LayerPlan } from "../chart/plan";
import { nearest } from "../finding/nearest";
import { markSpec } from "../mark/specs";
import type { ChartSpec } from "../sheet/schema-charts";
import type { Path } from "../sheet/tree";
import { addFinding } from "./compiling";
import type { Place } from "./piece-place";

/** Says which looks of a chart nothing in it can take: they would be accepted and not seen. */
export function warnNoEffect(place: Place, spec: ChartSpec, layers: readonly LayerPlan[]) {
  const warn = (path: Path, message: string) =>
    addFinding(place.compiling, [...place.path, ...path], "no-effect", message, {
      severity: "warning",
      piece: place.name,
    });
  if ((spec.stacking ?? "off") !== "off" && !layers.some(({ draw }) => markSpec(draw).stacking))
    warn(["stacking"], "nothing here is stacked: bars, areas and boxes are");
  const channel = layers.map(({ query }) => query.channels.color).find((found) => found !== undefined);
  if (spec.colors !== undefined && !channel && !layers.some(({ looks }) => looks.color))
    warn(["colors"], "colors: says which colours the values of color: have, and there is no color: here");
  const { colors } = spec;
  const column = channel?.column === undefined ? undefined : place.built.table.columns.get(channel.column);
  if (column?.kind !== "text" || typeof colors !== "object" || Array.isArray(colors)) return;
  // A value that is not there may come with next month's rows; one that is nearly there is a slip of the pen.
  const known = new Set(column.dictionary);
  for (const name of Object.keys(colors)) {
    const near = known.has(name) || known.size > MOST_NAMES ? undefined : nearest(name, known);
    if (near !== undefined) warn(["colors", name], `${channel?.label} has no value "${name}"; did you mean ${near}?`);
  }
}

/** Among more names than these nobody looks for the one that is nearest. */
const MOST_NAMES = 500;
