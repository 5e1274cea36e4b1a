import type { LayerPlan } from "../chart/plan";
import { nearest } from "../finding/nearest";
import { markSpec } from "../mark/specs";
import type { ChartSpec } from "../sheet/schema-charts";
import type { Path } from "../sheet/tree";
import { addFix } from "./advice/chart-view";
import { addFinding } from "./compiling";
import { type Place, tableOf } from "./piece-place";

/** Says which looks of a chart nothing in it can take: they would be accepted and not seen. */
export function warnNoEffect(place: Place, spec: ChartSpec, layers: readonly LayerPlan[]) {
  const warn = (path: Path, message: string) =>
    addFinding(place.compiling, [...place.path, ...path], "no-effect", message, {
      severity: "warning",
      piece: place.name,
    });
  if ((spec.stacking ?? "off") !== "off" && !layers.some(({ draw }) => markSpec(draw).stacking))
    warn(["stacking"], "nothing here is stacked: bars, areas and boxes are");
  const colored = layers.find(({ query }) => query.channels.color !== undefined);
  const channel = colored?.query.channels.color;
  if (spec.colors !== undefined && !channel && !layers.some(({ looks }) => looks.color))
    warn(["colors"], "colors: says which colours the values of color: have, and there is no color: here");
  const { colors } = spec;
  const column = channel?.column === undefined ? undefined : tableOf(place, colored).columns.get(channel.column);
  if (column?.kind !== "text" || typeof colors !== "object" || Array.isArray(colors)) return;
  // A value that is not there may come with next month's rows; one that is nearly there is a slip of the pen.
  const known = new Set(column.dictionary);
  for (const name of Object.keys(colors)) {
    const near = known.has(name) || known.size > MOST_NAMES ? undefined : nearest(name, known);
    if (near !== undefined) warn(["colors", name], `${channel?.label} has no value "${name}"; did you mean ${near}?`);
  }
}

/**
 * Segments have two ends on one axis and their place on the other. As rules inherit no places, one that the chart alone
 * says is not theirs.
 */
export function warnAslant(place: Place, spec: ChartSpec, layers: readonly LayerPlan[]) {
  for (const [at, { draw, query }] of layers.entries()) {
    if (markSpec(draw).inheritsPlaces !== false) continue;
    const axis = (["x", "y"] as const).find((one) => `${one}_to` in query.channels);
    const other = axis === "x" ? "y" : "x";
    if (!axis || other in query.channels) continue;
    const path = [...place.path, ...(spec.layers ? ["layers", at] : [])];
    const whole = `${other}: ${spec[other]}`;
    const fix = spec[other] === undefined ? undefined : addFix({ ...place, path }, `${axis}_to`, whole);
    addFinding(
      place.compiling,
      [...path, `${axis}_to`],
      "rules-aslant",
      `${draw} from ${axis} to ${axis}_to without ${other} run from one edge of the plot to the other, aslant`,
      { severity: "warning", piece: place.name, ...(fix ? { fix } : {}) },
    );
  }
}

/** Among more names than these nobody looks for the one that is nearest. */
const MOST_NAMES = 500;
