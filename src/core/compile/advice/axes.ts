import { leadingLayer } from "../../chart/leading";
import { type Advice, addFix, counted, firstOf, isText, replaceFix } from "./chart-view";

/** So many bars in the order of their names are hard to compare. */
const MANY_BARS = 5;
/** Rows that are looked at to see how values lie. */
const SAMPLE = 2000;
/** Values crowd where nine of ten take less than this part of the axis. */
const CROWDED = 0.08;
/** Values lie far from zero where the least is this part of the most. */
const FAR = 0.7;

export const logs: Advice = {
  code: "log-of-zero",
  find(view) {
    const { plan, values } = view;
    for (const axis of ["x", "y"] as const) {
      if (plan.axes[axis]?.scale !== "log") continue;
      const channel = firstOf(plan, axis);
      const column = values(channel);
      if (!channel || !column || column.kind === "text") continue;
      let below = 0;
      for (const value of column.values) if (value <= 0) below += 1;
      if (below === 0) continue;
      return {
        at: ["axes", axis, "scale"],
        message:
          `${below} rows of ${channel.label} at or below zero have ` +
          "no place on a log axis; symlog has one for them",
        fix: replaceFix(view, ["axes", axis, "scale"], "symlog"),
      };
    }
    return undefined;
  },
};

export const unsorted: Advice = {
  code: "unsorted-bars",
  find(view) {
    const { plan, spec, values } = view;
    const { along } = plan;
    const measure = along === "x" ? "y" : "x";
    const layer = leadingLayer(plan);
    const [place, measured] = [layer.query.channels[along], layer.query.channels[measure]];
    if (layer.draw !== "bars" || plan.sort[along] || !isText(place) || place.choices || !measured?.aggregate)
      return undefined;
    const column = place.column === undefined || place.order ? undefined : values(place);
    if (column?.kind !== "text" || column.ordered) return undefined;
    const count = counted(place, column);
    const written = spec[measure];
    if (count < MANY_BARS || written === undefined || spec.layers) return undefined;
    const by = /^[\w.() ]+$/.test(written) ? `-${written}` : `'-(${written})'`;
    return {
      message: `${count} bars stand in the order of their names; by ${measured.label} they can be compared`,
      fix: addFix(view, measure, `sort: {${along}: ${by}}`),
    };
  },
};

export const crowded: Advice = {
  code: "crowded-axis",
  find({ plan, values }) {
    if (plan.layers.some(({ draw }) => draw !== "points")) return undefined;
    for (const axis of ["x", "y"] as const) {
      const own = plan.axes[axis];
      const channel = firstOf(plan, axis);
      const column = own?.scale === "linear" && own.range === "default" ? values(channel) : undefined;
      if (!channel || !column || column.kind === "text") continue;
      const found = sampled(column.values);
      const [least, most] = [found[0] ?? 0, found.at(-1) ?? 0];
      if (found.length < 30 || !(least > 0)) continue;
      const ninth = found[Math.floor(found.length * 0.9)] as number;
      if ((ninth - least) / (most - least || 1) > CROWDED) continue;
      return {
        at: [axis],
        message:
          `nine of ten values of ${channel.label} take ` +
          `${Math.max(1, Math.round(((ninth - least) / (most - least)) * 100))} % of the axis; a log scale gives them room`,
        marks: { channels: [axis], range: [least, ninth] },
      };
    }
    return undefined;
  },
};

/** Zero on an axis that needs none flattens what lies far from it; bars without it make small differences large. */
export const zero: Advice = {
  code: "zero-of-axis",
  find(view) {
    const { plan, spec, values } = view;
    for (const axis of ["x", "y"] as const) {
      const own = plan.axes[axis];
      const said = spec.axes?.[axis]?.from_zero;
      const channel = firstOf(plan, axis);
      if (own?.scale !== "linear" || said === undefined || !channel) continue;
      const needs = plan.layers.some(({ draw }) => draw === "bars" || draw === "area") && axis !== plan.along;
      if (needs && !own.fromZero)
        return {
          at: ["axes", axis, "from_zero"],
          message:
            "bars and areas are compared by their length: without zero " +
            `on the axis of ${channel.label} that misleads`,
          fix: replaceFix(view, ["axes", axis, "from_zero"], "true"),
        };
      const column = needs || !own.fromZero ? undefined : values(channel);
      if (!column || column.kind === "text") continue;
      const found = sampled(column.values);
      const [least, most] = [found[0] ?? 0, found.at(-1) ?? 0];
      if (!(least > 0 && least / most > FAR)) continue;
      return {
        at: ["axes", axis, "from_zero"],
        message:
          `${channel.label} lies far from zero: with zero on the axis all of ` +
          `it takes a ${Math.round((1 - least / most) * 100)} % strip`,
        fix: replaceFix(view, ["axes", axis, "from_zero"], "false"),
      };
    }
    return undefined;
  },
};

/** Known values in order: all of them, or evenly taken ones of very many. */
function sampled(values: Float64Array): Float64Array {
  const step = Math.max(1, Math.floor(values.length / SAMPLE));
  const found: number[] = [];
  for (let row = 0; row < values.length; row += step) {
    const value = values[row] as number;
    if (value === value) found.push(value);
  }
  return Float64Array.from(found).sort();
}
