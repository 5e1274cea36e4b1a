import type { ChartPlan, LayerPlan } from "../chart/plan";
import type { Fix } from "../finding/finding";
import { TooLarge } from "../finding/limits";
import { evaluate, frameOf } from "../formula/evaluate";
import { columnOf } from "../formula/vector";
import type { PlanPiece } from "../plan/plan";
import { categoriesOf } from "../query/categories";
import type { Channel } from "../query/query";
import { contrastOf } from "../scene/contrast";
import { PALETTES, TOKENS } from "../scene/theme";
import type { ChartSpec } from "../sheet/schema-charts";
import type { Path } from "../sheet/tree";
import { type Column, gather } from "../table/column";
import { type Compiling, settingValue } from "./compiling";
import { keptRows } from "./several-rows";

/**
 * Advice: what a sound chart shows badly, found in the chart as it was planned and in its rows. Each is one
 * object; none of them stands in the way of a file.
 */
interface Advice {
  code: string;
  find: (view: ChartView) => Advised | undefined;
}

interface Advised {
  /** Where in the chart; the chart itself if unsaid. */
  at?: Path;
  message: string;
  fix?: Fix | undefined;
}

/** A chart as advice looks at it. */
interface ChartView {
  compiling: Compiling;
  path: Path;
  spec: ChartSpec;
  plan: ChartPlan;
  /** The values of a channel in the rows that its layer keeps; nothing for an aggregate. */
  values: (channel: Channel | undefined) => Column | undefined;
}

const MOST_SLICES = 7;
const MOST_COLORS = PALETTES.wharf.light.length;
/** So many bars in the order of their names are hard to compare. */
const MANY_BARS = 5;
/** Rows that are looked at to see how values lie. */
const SAMPLE = 2000;
/** Values crowd where nine of ten take less than this part of the axis. */
const CROWDED = 0.08;
/** Least contrast of marks with their ground. */
const LEAST_CONTRAST = 2;

const isText = (channel: Channel | undefined): channel is Channel => channel?.kind === "text";
/** More texts than these are counted without being put in order. */
const VERY_MANY = 500;

function counted(channel: Channel, values: Column): number {
  if (values.kind === "text" && values.dictionary.length > VERY_MANY) return new Set(values.codes).size;
  return categoriesOf(values, channel.order).length;
}

const firstOf = ({ layers }: ChartPlan, key: string): Channel | undefined =>
  layers.map(({ query }) => query.channels[key]).find((channel) => channel !== undefined);

/** A fix that writes another text for a value. */
function replaceFix({ compiling, path }: ChartView, at: Path, text: string): Fix | undefined {
  const { source } = compiling.sheet;
  const span = source.valueSpan([...path, ...at]);
  // What a setting says is the reader's.
  if (!span || source.text[span.start] === "$") return undefined;
  return { title: `write ${text}`, edits: [{ ...span, text }] };
}

/** A fix that adds a key to the chart, after another that it has. */
function addFix({ compiling, path }: ChartView, after: string, line: string): Fix | undefined {
  const { source } = compiling.sheet;
  const [key, value] = [source.keySpan([...path, after]), source.valueSpan([...path, after])];
  if (!key || !value) return undefined;
  const lineStart = source.text.lastIndexOf("\n", key.start - 1) + 1;
  const before = source.text.slice(lineStart, key.start);
  const isBlock = /^\s*$/.test(before);
  const lineEnd = source.text.indexOf("\n", value.end);
  const end = isBlock ? (lineEnd < 0 ? source.text.length : lineEnd) : value.end;
  return { title: `add ${line}`, edits: [{ start: end, end, text: isBlock ? `\n${before}${line}` : `, ${line}` }] };
}

const slices: Advice = {
  code: "many-slices",
  find({ plan, values }) {
    const layer = plan.layers.find(({ draw }) => draw === "slices");
    const color = layer?.query.channels.color;
    const column = isText(color) ? values(color) : undefined;
    const count = column && color ? counted(color, column) : 0;
    if (count <= MOST_SLICES || plan.top) return undefined;
    return {
      message: `${count} slices can hardly be compared; up to ${MOST_SLICES} can, and bars that lie down can all`,
    };
  },
};

const colors: Advice = {
  code: "many-colors",
  find({ plan, spec, values }) {
    const color = firstOf(plan, "color");
    const column = isText(color) && !color.choices ? values(color) : undefined;
    if (!column || !color) return undefined;
    const count = counted(color, column);
    const listed = Array.isArray(spec.colors) ? spec.colors.length : MOST_COLORS;
    if (count <= listed || (spec.colors !== undefined && !Array.isArray(spec.colors))) return undefined;
    const which = Array.isArray(spec.colors) ? `the list has ${listed}` : `the palette has ${listed}`;
    return { message: `${count} values of ${color.label} want as many colours; ${which}, and they begin again` };
  },
};

const logs: Advice = {
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
        message: `${below} rows of ${channel.label} at or below zero have no place on a log axis; symlog has one for them`,
        fix: replaceFix(view, ["axes", axis, "scale"], "symlog"),
      };
    }
    return undefined;
  },
};

const unsorted: Advice = {
  code: "unsorted-bars",
  find(view) {
    const { plan, spec, values } = view;
    const { along } = plan;
    const measure = along === "x" ? "y" : "x";
    const layer = plan.layers[0] as LayerPlan;
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

const crowded: Advice = {
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
        message: `nine of ten values of ${channel.label} take ${Math.max(1, Math.round(((ninth - least) / (most - least)) * 100))} % of the axis; a log scale gives them room`,
      };
    }
    return undefined;
  },
};

const faint: Advice = {
  code: "faint-colors",
  find({ compiling, spec }) {
    const given = spec.colors && typeof spec.colors === "object" ? Object.values(spec.colors) : [];
    const { ground = "light" } = compiling.sheet.style;
    const grounds = ground === "auto" ? (["light", "dark"] as const) : [ground];
    for (const color of given)
      for (const one of grounds) {
        if (!/^#[0-9a-f]{6}$/i.test(color)) continue;
        const contrast = contrastOf(color, TOKENS[one].ground);
        if (contrast >= LEAST_CONTRAST) continue;
        const message = `${color} stands out from the ${one} ground by ${contrast.toFixed(1)} to 1 only; marks want 3 to 1`;
        return { at: ["colors"], message };
      }
    return undefined;
  },
};

const ALL: readonly Advice[] = [slices, colors, logs, unsorted, crowded, faint];

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

/** The values of a channel in the rows that its layer keeps; nothing for an aggregate, or where readers decide. */
function valuesOf(compiling: Compiling, { layers }: ChartPlan, channel: Channel | undefined): Column | undefined {
  const query = layers.find((layer) => Object.values(layer.query.channels).some((one) => one === channel))?.query;
  const table = query && compiling.tables.get(query.from)?.table;
  if (!table || !channel || channel.aggregate) return undefined;
  const rows = query.keep && keptRows(compiling, table, query.keep);
  if (query.keep && !rows) return undefined;
  try {
    const known = channel.column === undefined ? undefined : table.columns.get(channel.column);
    const column =
      known ?? columnOf(evaluate(channel.formula, frameOf(table, settingValue(compiling))), table.rowCount);
    return rows ? gather(column, Int32Array.from(rows)) : column;
  } catch (fault) {
    // What is too large is said where the chart is drawn.
    if (fault instanceof TooLarge) return undefined;
    throw fault;
  }
}

/** Adds what could be said of the charts of a sheet that is sound. */
export function adviseCharts(compiling: Compiling, pieces: readonly PlanPiece[]) {
  for (const { name, plan } of pieces) {
    const spec = compiling.sheet.charts.get(name);
    if (plan.type !== "chart" || !spec) continue;
    const values = (channel: Channel | undefined) => valuesOf(compiling, plan, channel);
    const view: ChartView = { compiling, path: ["charts", name], spec, plan, values };
    for (const { code, find } of ALL) {
      const found = find(view);
      if (!found) continue;
      const { source } = compiling.sheet;
      const span = found.at ? source.valueSpan([...view.path, ...found.at]) : source.keySpan(view.path);
      compiling.findings.push({
        code,
        severity: "advice",
        message: found.message,
        piece: name,
        ...(span ? { span } : {}),
        ...(found.fix ? { fix: found.fix } : {}),
      });
    }
  }
}
