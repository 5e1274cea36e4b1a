import { leadingOf } from "../chart/leading";
import type { AxisPlan, ChartPlan, LayerPlan } from "../chart/plan";
import type { AxisName } from "../mark/mark";
import { markSpec } from "../mark/specs";
import type { Channel } from "../query/query";
import type { AxisSpec, ChartSpec } from "../sheet/schema-charts";
import type { Path } from "../sheet/tree";
import { planAxis } from "./axis";
import { type Place, wrongAt } from "./piece-place";

/** An axis as the sheet asks for it, and where it does. */
interface Asked {
  spec: AxisSpec | undefined;
  path: Path;
}

/** Plans the axes of a chart; nothing where one is found wrong. */
export function readAxes(
  place: Place,
  spec: ChartSpec,
  layers: readonly LayerPlan[],
  along: AxisName,
): ChartPlan["axes"] | undefined {
  const axes: ChartPlan["axes"] = {};
  const asked = (axis: AxisName): Asked => ({ spec: spec.axes?.[axis], path: [...place.path, "axes", axis] });
  if (!checkOwnWords(place, spec)) return undefined;
  const right = layers.flatMap((layer, at) => (layer.side === "right" ? [at] : []));
  for (const axis of ["x", "y"] as const) {
    const own = layers.filter(({ side }) => axis === "x" || side === undefined);
    const plan = readAxis(place, axis, asked(axis), { own, layers, along, stacking: spec.stacking });
    if (plan === null) return undefined;
    if (plan) axes[axis] = plan;
  }
  const [first] = right;
  if (first === undefined) return axes;
  const path = [...place.path, "layers", first, "axes", "y"];
  if (axes.y?.side === "right")
    return wrongAt(
      place,
      path,
      "wrong-key",
      "the other scale stands at the right already; one of both stands at the left",
    );
  const own = right.map((at) => layers[at] as LayerPlan);
  const { side: _, ...second } = spec.layers?.[first]?.axes?.y ?? {};
  const plan = readAxis(place, "y", { spec: second, path }, { own, layers: own, along, stacking: spec.stacking });
  if (plan === null) return undefined;
  if (plan) axes.y2 = plan;
  return axes;
}

/** Layers that share the chart's scale have no words for it. */
function checkOwnWords(place: Place, { layers = [] }: ChartSpec): boolean {
  for (const [at, { axes }] of layers.entries()) {
    const [word] = Object.keys(axes?.y ?? {}).filter((key) => key !== "side");
    if (axes?.y.side === "right" || word === undefined) continue;
    wrongAt(
      place,
      [...place.path, "layers", at, "axes", "y", word],
      "wrong-key",
      `${word}: goes under the axes: of the chart, or beside side: right for a scale of its own`,
    );
    return false;
  }
  return true;
}

interface Standing {
  /** The layers that stand on the axis. */
  own: readonly LayerPlan[];
  layers: readonly LayerPlan[];
  along: AxisName;
  stacking: ChartSpec["stacking"];
}

/** A column, or what one function makes of one. */
const isPlain = ({ formula }: Channel) =>
  formula.type === "column" || (formula.type === "call" && formula.arguments.every(({ type }) => type !== "binary"));

/** The channel whose words an axis has: the first, but rather a plain one than a sum of several things. */
function namingChannel(channels: readonly Channel[]): Channel | undefined {
  const [first] = channels;
  if (!first || isPlain(first)) return first;
  return channels.find((channel) => channel.kind === first.kind && !channel.constant && isPlain(channel)) ?? first;
}

/** One axis; `null` where it is found wrong, nothing where no layer stands on it. */
function readAxis(
  place: Place,
  axis: AxisName,
  { spec, path }: Asked,
  { own, layers, along, stacking }: Standing,
): AxisPlan | null | undefined {
  // A band or a rule that is drawn first does not name the axis on which the chart's own rows stand.
  const leading = own[leadingOf(own, place.built.name)];
  const naming = leading ? [leading, ...own.filter((layer) => layer !== leading)] : own;
  const channel = namingChannel(
    naming.flatMap(({ query }) => [query.channels[axis] ?? [], query.channels[`${axis}_to`] ?? []].flat()),
  );
  const measures = own.map(({ draw }) => markSpec(draw).measures).find(Boolean);
  if (!channel && (!measures || axis === "x")) return undefined;
  const plan = planAxis(place, axis, channel ?? measuredBy(measures), layers, along, spec, path);
  if (!plan) return null;
  if (!channel && measures) plan.fromZero = spec?.from_zero ?? measures.fromZero;
  // Parts of a whole have no unit any more.
  if (stacking === "percent" && axis !== along) {
    plan.format ??= ".0%";
    plan.whole = false;
    delete plan.unit;
  }
  return plan;
}

/** What a mark measures that no channel says. */
const measuredBy = (measures: { label: string } | undefined): Channel => ({
  formula: { type: "missing" },
  text: "",
  kind: "number",
  aggregate: true,
  label: measures?.label ?? "",
});
