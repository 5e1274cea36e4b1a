import type { Answer } from "../query/answer";
import { nameAt } from "../query/categories";
import { stretchEnd } from "../query/interval";
import { isSummed } from "../query/summed";
import { LayerValues } from "../query/values";
import type { Scale } from "../scale/scales";
import { Rects } from "../scene/shapes/rects";
import type { Words } from "../scene/shapes/words";
import { LABEL_SIZE } from "./labels";
import type { AxisName, Drawing, MarkDraw, MarkSpec } from "./mark";
import { type WordSpot, wordsAt } from "./mark-words";
import { axisValues } from "./place-values";
import { measuredEnds, stackEnds } from "./stack";

export const otherAxis = (axis: AxisName): AxisName => (axis === "x" ? "y" : "x");

export const barsSpec = {
  name: "bars",
  says: "A bar for each place along an axis; they lie down when the measure is on x.",
  many: "bars",
  fills: true,
  needs: [
    ["x", "y"],
    ["x", "x_to"],
    ["y", "y_to"],
  ],
  needed: "bars need both x: and y:, one of them measured, such as count(); or two ends, such as x: and x_to:",
  takes: ["x", "y", "x_to", "y_to", "color", "opacity", "series", "label"],
  varies: ["opacity"],
  // A bar needs a width: plain numbers and dates under bars are categories unless they are binned.
  axis: ({ along, channel, ranged }) => {
    if (ranged) return along ? { grid: false } : {};
    return along ? { grid: false, ...(channel.interval ? {} : { scale: "category" }) } : { fromZero: true };
  },
  stacking: ({ query }, along) => {
    const { color, x_to, y_to } = query.channels;
    // Spans stand where they are, and numbers make a ramp, which parts no place.
    const parts = !x_to && !y_to && (color?.kind === "text" || color?.kind === "boolean");
    if (!color || !(query.grouped || parts)) return "off";
    return isSummed(query.channels[otherAxis(along)]) ? "sum" : "beside";
  },
  oneRowEach: true,
} as const satisfies MarkSpec;

/** Widest half of a bar on a category, in pixels, and the part of the band that it takes. */
const HALF = { part: 0.35, most: 40 };
/** The same for each of several bars beside one another, and the part of the band that all of them take. */
const BESIDE = { part: 0.4, most: 24 };

/** A log axis has no zero, and others need not hold it: lengths begin at the end of the axis that is nearest to it. */
export function clampTo({ type, domain: [low, high] }: Scale, value: number): number {
  if (type === "log" && value <= 0) return low;
  return value === 0 ? Math.min(Math.max(0, low), high) : value;
}

const shared = new WeakMap<Answer, boolean>();

/** True if bars of several colours share a place: where a place has one colour alone, its bar has all the room. */
function sharePlaces(all: Answer, along: AxisName): boolean {
  const known = shared.get(all);
  if (known !== undefined) return known;
  const values = new LayerValues(all, all);
  const [place, color] = [values.get(along), values.get("color")];
  const colors = new Map<string | null, string | null>();
  let found = place === undefined || color === undefined;
  for (let group = 0; place && color && group < all.counts.length && !found; group++) {
    if ((all.counts[group] as number) === 0) continue;
    const [own, name] = [nameAt(place, group), nameAt(color, group)];
    if (!colors.has(own)) colors.set(own, name);
    else found = colors.get(own) !== name;
  }
  shared.set(all, found);
  return found;
}

/** From where to where each bar stands along its axis, in pixels. */
function spans({ input, layer, values, ids, stage, base }: Drawing): (bar: number) => [number, number] {
  const { along, stacking } = input.plan;
  const scale = stage[along];
  if (!scale) return () => [0, 1];
  const places = axisValues(values, along, along, stage, ids);
  const others = stage.categories[along] ? undefined : values.numbers(`${along}_to`);
  if (others)
    return (bar) => {
      const ends = [scale.place(places[bar] as number), scale.place(others[ids[bar] as number] as number)] as const;
      return [Math.min(...ends), Math.max(...ends)];
    };
  const placeOf = (bar: number) => scale.place(places[bar] as number);
  const edges = values.prepared.edges.get(along);
  const colorCount = input.color?.type === "categories" ? input.color.names.length : 1;
  const beside =
    stacking === "beside" && colorCount > 1 && values.get("color") !== undefined && sharePlaces(layer.all, along);
  if (stage.categories[along]) {
    const half = beside
      ? Math.min(scale.band * BESIDE.part, BESIDE.most * colorCount)
      : Math.min(scale.band * HALF.part, HALF.most);
    return (bar) => {
      const span: [number, number] = [placeOf(bar) - half, placeOf(bar) + half];
      return beside ? partOf(span, base.color[bar] as number, colorCount) : span;
    };
  }
  if (!edges) return (bar) => [placeOf(bar) - 1.5, placeOf(bar) + 1.5];
  return (bar) => {
    const ends = [placeOf(bar), scale.place(stretchEnd(edges, places[bar] as number))] as const;
    const [from, to] = [Math.min(...ends), Math.max(...ends)];
    if (beside) {
      // What stands together is parted from what stands in the next stretch.
      const gap = ((to - from) * (1 - 2 * BESIDE.part)) / 2;
      return partOf([from + gap, to - gap], base.color[bar] as number, colorCount);
    }
    // A hairline of ground between neighbours, as long as there is room for it.
    return [from, to - from > 3 ? to - 1 : to];
  };
}

/** One of several equal parts of a span, with a hairline of ground behind it. */
function partOf([from, to]: [number, number], part: number, count: number): [number, number] {
  const step = (to - from) / count;
  const start = from + step * part;
  return [start, start + Math.max(1, step - 1)];
}

/** Distance of words from the end of their bar, in pixels. */
const AWAY = 4;

/**
 * Words of bars: beyond their ends, or within them where they stand on one another or there is no room beyond.
 * Bars without a measure have theirs at the top or the beginning.
 */
function barWords(
  drawing: Drawing,
  { x, y, width, height }: Record<"x" | "y" | "width" | "height", Float64Array>,
  { from, to }: { from: Float64Array; to: Float64Array },
): Words[] {
  const { input, stage, values } = drawing;
  const { plot } = stage;
  const isLying = input.plan.along === "y";
  const isStacked = from.some((value) => value !== 0 && value === value);
  const measured = values.get(otherAxis(input.plan.along)) !== undefined;
  return wordsAt(drawing, (bar, room): WordSpot | undefined => {
    const box = {
      x: x[bar] as number,
      y: y[bar] as number,
      width: width[bar] as number,
      height: height[bar] as number,
    };
    const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
    const [long, broad] = isLying ? [box.width, box.height] : [box.height, box.width];
    const [across, thick] = isLying ? [room, LABEL_SIZE] : [LABEL_SIZE, room];
    if (!measured && !isLying) return { x: box.x + AWAY, y: plot.y + LABEL_SIZE, anchor: "start", on: true };
    if (thick > broad + (isStacked ? 0 : 6)) return undefined;
    const within: WordSpot | undefined = long >= across + 4 ? { ...middle, anchor: "middle", on: true } : undefined;
    if (isStacked || !measured) return within;
    const isBelow = (to[bar] as number) < 0;
    if (isLying) {
      const end = isBelow ? box.x - AWAY : box.x + box.width + AWAY;
      const fits = isBelow ? end - room >= plot.x : end + room <= plot.x + plot.width + AWAY;
      return fits ? { x: end, y: middle.y, anchor: isBelow ? "end" : "start" } : within;
    }
    const end = isBelow ? box.y + box.height + AWAY + LABEL_SIZE / 2 : box.y - AWAY - LABEL_SIZE / 2;
    return end - LABEL_SIZE / 2 >= plot.y - LABEL_SIZE ? { x: middle.x, y: end, anchor: "middle" } : within;
  });
}

export const barsDraw: MarkDraw = {
  ends: measuredEnds,
  lengths: true,
  shapes(drawing) {
    const { input, values, ids, stage, base } = drawing;
    const { along } = input.plan;
    const measuredScale = stage[otherAxis(along)];
    const measured = values.get(otherAxis(along)) !== undefined;
    const ends = stackEnds(input, values, ids);
    const spanOf = spans(drawing);
    // Bars with no measure are bands across the whole plot.
    const { plot } = stage;
    const whole = along === "x" ? [plot.y, plot.y + plot.height] : [plot.x, plot.x + plot.width];
    const x = new Float64Array(ids.length);
    const y = new Float64Array(ids.length);
    const width = new Float64Array(ids.length);
    const height = new Float64Array(ids.length);
    for (let bar = 0; bar < ids.length; bar++) {
      const [a, b] = spanOf(bar);
      const pixel = (value: number, otherwise: number) =>
        measuredScale && measured ? measuredScale.place(clampTo(measuredScale, value)) : otherwise;
      let from = pixel(ends.from[bar] as number, whole[0] as number);
      let to = pixel(ends.to[bar] as number, whole[1] as number);
      if (from > to) [from, to] = [to, from];
      x[bar] = along === "x" ? a : from;
      width[bar] = along === "x" ? b - a : to - from;
      y[bar] = along === "x" ? from : a;
      height[bar] = along === "x" ? to - from : b - a;
    }
    const boxes = { x, y, width, height };
    return { shapes: [new Rects(base, boxes)], over: barWords(drawing, boxes, ends) };
  },
};
