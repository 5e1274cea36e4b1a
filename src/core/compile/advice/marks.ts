import { leadingLayer } from "../../chart/leading";
import type { LayerPlan } from "../../chart/plan";
import type { Channel } from "../../query/query";
import { grainFor } from "../../table/calendar";
import { type Column, valueAt } from "../../table/column";
import { extentOf } from "../../table/extent";
import { type Advice, addFix, type ChartView, LIT, LOOKED_AT, replaceFix } from "./chart-view";

/** Fewer marks than these are seen even where they lie on one another. */
const FEW = 50;
/** More names than these beside marks run into one another. */
const MOST_LABELS = 60;

const valuesIn = (column: Column): ArrayLike<number> => (column.kind === "text" ? column.codes : column.values);

const cut = (rows: number): string => (rows > LOOKED_AT ? "the first " : "");

/** The first layer, where each of its rows is a mark of its own at an x and a y. */
function rawLayer({
  plan,
  values,
}: ChartView): { layer: LayerPlan; x: Channel; y: Channel; columns: [Column, Column] } | undefined {
  const layer = leadingLayer(plan);
  const { x, y } = layer.query.channels;
  if (layer.query.grouped || !x || !y || x.choices || y.choices || plan.panels) return undefined;
  const [across, up] = [values(x), values(y)];
  return across && up ? { layer, x, y, columns: [across, up] } : undefined;
}

/** Points that lie exactly on others: one stands for many, and nobody sees it. */
export const overlap: Advice = {
  code: "marks-on-marks",
  find(view) {
    const raw = rawLayer(view);
    if (raw?.layer.draw !== "points" || raw.layer.query.channels.size || raw.layer.options.shade) return undefined;
    const [across, up] = raw.columns.map(valuesIn) as [ArrayLike<number>, ArrayLike<number>];
    const places = new Map<string, number>();
    const crowded = new Map<string, number>();
    let known = 0;
    for (let row = 0; row < Math.min(LOOKED_AT, across.length); row++) {
      if (Number.isNaN(across[row]) || Number.isNaN(up[row])) continue;
      known += 1;
      const place = `${across[row]} ${up[row]}`;
      if (places.has(place)) crowded.set(place, row);
      else places.set(place, row);
    }
    if (known < FEW || places.size > known / 2) return undefined;
    const values = [...crowded.values()].slice(0, LIT).map((row) => raw.columns.map((column) => valueAt(column, row)));
    return {
      marks: { channels: ["x", "y"], values },
      message:
        `${cut(across.length)}${known} points lie on ${places.size} ` +
        "places; how many lie on each is seen by their size",
      fix: addFix(view, "y", "size: count()"),
    };
  },
};

/** A line through raw rows of which many share an x goes up and down at each. */
export const zigzag: Advice = {
  code: "line-of-raw-rows",
  find(view) {
    const raw = rawLayer(view);
    if (!raw || (raw.layer.draw !== "line" && raw.layer.draw !== "area")) return undefined;
    const { layer, x, y, columns } = raw;
    if (layer.query.channels.along) return undefined;
    const { color, series } = layer.query.channels;
    const along = valuesIn(columns[0]);
    const rows = Math.min(LOOKED_AT, along.length);
    const placesBy = (...channels: (Channel | undefined)[]): number => {
      const parting = channels.flatMap((channel) => view.values(channel) ?? []).map(valuesIn);
      const places = new Set<string>();
      for (let row = 0; row < rows; row++) places.add([along, ...parting].map((own) => own[row]).join(" "));
      return places.size;
    };
    // Colours along a ramp part no lines.
    const isRamp = color !== undefined && color.kind !== "text" && color.kind !== "boolean";
    const places = placesBy(series, isRamp ? undefined : color);
    if (rows < FEW || places > rows / 2) return undefined;
    const said =
      `${cut(along.length)}${rows} rows stand on ${places} values ` +
      `of ${x.label}: the line goes up and down at each`;
    if (isRamp && !series && placesBy(color) > rows / 2)
      return {
        at: ["color"],
        message: `${said}; a line for each ${color.label} has one`,
        fix: addFix(view, "color", `series: ${color.text}`),
      };
    return {
      at: ["y"],
      message: `${said}; their mean has one`,
      fix: replaceFix(view, ["y"], `mean(${y.text})`),
    };
  },
};

/** The formula that parts numbers or moments into stretches that can be seen side by side. */
function stretchesOf({ kind, text }: Channel, low: number, high: number): string {
  if (kind !== "date" && kind !== "datetime") return `bin(${text}, 24)`;
  return `by_${grainFor(high - low)}(${text})`;
}

/** Numbers or moments of which nearly each has a bar of its own: how they lie is seen by stretches of them. */
export const barPerValue: Advice = {
  code: "bar-per-value",
  find(view) {
    const { along, top } = view.plan;
    const { draw, query } = leadingLayer(view.plan);
    const channel = query.channels[along];
    if (draw !== "bars" || !query.grouped || top || !channel || channel.choices || channel.interval) return undefined;
    const column = view.values(channel);
    if (!column || column.kind === "text" || column.kind === "boolean" || `${along}_to` in query.channels)
      return undefined;
    const known = [...column.values.subarray(0, LOOKED_AT)].filter((value) => value === value);
    const places = new Set(known).size;
    if (known.length < FEW || places < known.length / 2) return undefined;
    const [low, high] = extentOf(column.values) ?? [0, 0];
    return {
      at: [along],
      message:
        `${cut(column.values.length)}${known.length} rows have ${places} values of ` +
        `${channel.label}, each with a bar of its own; how they lie is seen by stretches`,
      fix: replaceFix(view, [along], stretchesOf(channel, low, high)),
    };
  },
};

/** Names beside very many marks. */
export const labels: Advice = {
  code: "many-labels",
  find({ plan, values }) {
    const layer = plan.layers.find(
      ({ query, draw }) => query.channels.label && (draw === "points" || draw === "labels"),
    );
    const label = layer?.query.channels.label;
    const column = layer && !layer.query.grouped ? values(label) : undefined;
    if (column?.kind !== "text") return undefined;
    const count = column.codes.reduce((sum, code) => sum + (code < 0 ? 0 : 1), 0);
    if (count <= MOST_LABELS) return undefined;
    return {
      at: ["label"],
      message:
        `${count} names stand beside their marks and run into one another; a ` +
        "label that is missing is not drawn: if(CONDITION, NAME, missing)",
    };
  },
};

/** Where two lines cross that are measured on scales of their own, nothing is equal. */
export const crossing: Advice = {
  code: "two-scales",
  find({ plan }) {
    const lines = plan.layers.filter(({ draw }) => draw === "line");
    const right = lines.find(({ side }) => side === "right");
    const left = lines.find(({ side }) => side !== "right");
    const [one, other] = [left, right].map((layer) => layer?.query.channels.y?.label);
    if (one === undefined || other === undefined) return undefined;
    return {
      message:
        `${one} and ${other} have scales of their own: where their lines cross ` +
        "nothing is equal; two charts one over the other cannot mislead so",
    };
  },
};
