import type { AxisPlan, LayerPlan } from "../chart/plan";
import type { AxisName } from "../mark/mark";
import { markSpec } from "../mark/specs";
import type { Channel } from "../query/query";
import { SCALES, type ScaleName } from "../scale/scale-kinds";
import type { AxisSpec } from "../sheet/schema-charts";
import type { Path } from "../sheet/tree";
import type { Column } from "../table/column";
import { capital } from "../table/column-names";
import type { Table } from "../table/table";
import { axisNumbers } from "./axis-numbers";
import { checkFormat, type Place, tableOf, wrongAt } from "./piece-place";

const isMoment = ({ kind }: Channel) => kind === "date" || kind === "datetime";
const isCategory = ({ kind }: Channel) => kind === "text" || kind === "boolean";

/** Marks stand along the axis that is not measured. */
export function alongOf(layers: readonly LayerPlan[]): AxisName {
  for (const { query } of layers) {
    const { x, y, x_to, y_to } = query.channels;
    // Bars with two ends and no place across are bands along the axis of their ends.
    if (x && x_to && !y) return "x";
    if (y && y_to && !x) return "y";
    if (x && x_to && y) return "y";
    if (x?.aggregate && y && !y.aggregate) return "y";
    if (y?.aggregate) return "x";
    if (y && isCategory(y) && x && x.kind !== "text") return "y";
  }
  return "x";
}

/** Plans an axis, and what it is for each column that a reader may choose for it. */
export function planAxis(...asked: Parameters<typeof planOneAxis>): AxisPlan | undefined {
  const [place, name, channel, layers, along, spec, path] = asked;
  const plan = planOneAxis(...asked);
  if (!plan || !channel.choices) return plan;
  const { settings, of } = channel.choices;
  const axes = Object.entries(of).flatMap(([key, chosen]) => {
    const axis = planOneAxis(place, name, chosen, layers, along, spec, path);
    return axis ? [[key, axis] as const] : [];
  });
  return { ...plan, choices: { settings, of: Object.fromEntries(axes) } };
}

/** True for an axis along which something is measured: lines across it would say nothing. */
function isRunAlong(name: AxisName, channel: Channel, layers: readonly LayerPlan[], along: AxisName): boolean {
  if (name !== along) return false;
  const other = name === "x" ? "y" : "x";
  return isMoment(channel) || layers.some(({ query }) => query.channels[other]?.aggregate);
}

const runsAlong = ({ draw, query }: LayerPlan) => markSpec(draw).runs === true && !("along" in query.channels);

const wholes = new WeakMap<Column, boolean>();

/** True for whole numbers alone; found once for each column, which does not change while an author writes. */
function holdsWhole(column: Column): boolean {
  if (column.kind !== "number") return false;
  let known = wholes.get(column);
  if (known === undefined) {
    known = column.values.every((value) => Number.isInteger(value) || Number.isNaN(value));
    wholes.set(column, known);
  }
  return known;
}

/** Aggregates that give whole numbers where they are made of them. */
const KEEP_WHOLE = new Set(["sum", "first", "last", "min", "max"]);

/** Counts, whole numbers, and what adds them up: of these there are no halves. */
function isWhole({ formula }: Channel, { columns }: Table): boolean {
  if (formula.type === "call" && (formula.name === "count" || formula.name === "distinct")) return true;
  const isKept = formula.type === "call" && KEEP_WHOLE.has(formula.name);
  const of = isKept ? formula.arguments[0] : formula;
  const column = of?.type === "column" ? columns.get(of.name) : undefined;
  return column !== undefined && holdsWhole(column);
}

/**
 * True where the words along an axis need no title: names and dates say what they are. A number or a truth says
 * nothing of what it is, unless it is a year.
 */
function saysItself({ kind, interval, choices, format }: Channel, scale: ScaleName): boolean {
  if (scale !== "category") return interval?.type === "period";
  const isYear = kind === "number" && format === "d";
  return choices !== undefined || isYear || !(kind === "number" || kind === "boolean");
}

/** Plans an axis over the first channel that stands on it; nothing where the sheet asks for what cannot be. */
function planOneAxis(
  place: Place,
  name: AxisName,
  channel: Channel,
  layers: readonly LayerPlan[],
  along: AxisName,
  spec: AxisSpec = {},
  path: Path = [],
): AxisPlan | undefined {
  const asked: Partial<AxisPlan> = {};
  // What the first layer that has a wish asks for counts.
  for (const { draw, query } of [...layers].reverse())
    Object.assign(
      asked,
      markSpec(draw).axis?.({
        along: name === along,
        channel: query.channels[name]?.choices ? channel : (query.channels[name] ?? channel),
        ranged: `${name}_to` in query.channels,
      }),
    );
  const natural = isCategory(channel) ? "category" : (asked.scale ?? (isMoment(channel) ? "time" : "linear"));
  const scale = spec.scale ?? natural;
  const problem = SCALES[scale].fits(channel);
  if (problem !== undefined) return wrongAt(place, [...path, "scale"], "wrong-scale", problem);
  if (!channel.choices && !checkFormat(place, [...path, "format"], channel.kind, spec.format)) return undefined;
  const numbers = axisNumbers(place, spec, path, channel.kind);
  if (!numbers) return undefined;
  const { range } = spec;
  const isBare = saysItself(channel, scale);
  const standing = layers.find(({ query }) => query.channels[name] === channel);
  return {
    scale,
    kind: channel.kind,
    fromZero: spec.from_zero ?? asked.fromZero ?? false,
    range: range === undefined || Array.isArray(range) ? "default" : range,
    reverse: spec.reverse ?? false,
    title: spec.title === "none" ? "" : (spec.title ?? (isBare ? "" : capital(channel.label))),
    grid: spec.grid ?? asked.grid ?? !isRunAlong(name, channel, layers, along),
    hidden: spec.hidden ?? false,
    ...(name === along && layers.every(runsAlong) ? { bound: true as const } : {}),
    ...(spec.side === "right" ? { side: "right" as const } : {}),
    measure: channel.aggregate,
    whole: isWhole(channel, tableOf(place, standing)),
    ...(channel.unit !== undefined && spec.title === undefined && !isBare ? { unit: channel.unit } : {}),
    ...(spec.format === undefined ? {} : { format: spec.format }),
    ...(channel.format === undefined || scale === "category" || isMoment(channel)
      ? {}
      : { columnFormat: channel.format }),
    ...numbers,
  };
}
