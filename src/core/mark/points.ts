import type { LayerInput } from "../chart/inputs";
import type { Answer } from "../query/answer";
import { categoriesOf, nameAt } from "../query/categories";
import { Discs, type RowPlaces } from "../scene/shapes/discs";
import type { Drawing, MarkDraw, MarkSpec } from "./mark";
import { type WordSpot, wordsAt } from "./mark-words";
import { colorsOfAll } from "./paints";
import { pixelPlaces, rowPixels } from "./place-values";
import { radiusOf, sizeMost } from "./point-size";

export const pointsSpec = {
  name: "points",
  says: "A disc for each row or group.",
  many: "points",
  needs: [["x"], ["y"], ["lon", "lat"]],
  needed: "points need x: or y:, or lon: and lat:",
  takes: ["x", "y", "lon", "lat", "color", "opacity", "size", "symbol", "label", "series", "above"],
  varies: ["size", "opacity"],
  options: { shade: { takes: ["density"], says: "density: each pixel as dark as rows lie there." } },
  brushedInBoxes: true,
} as const satisfies MarkSpec;

/** Areas of points in square pixels: small where there are many. */
const AREA = { few: 24, many: 9, above: 2000 };

/** Radii by the values of the size channel: areas are in proportion to them, over all rows. */
function radiiByValue({ layer, values, ids }: Drawing): Float64Array | undefined {
  const numbers = values.numbers("size");
  if (!numbers) return undefined;
  const most = sizeMost(layer.all);
  return Float64Array.from(ids, (id) => radiusOf(numbers[id] as number, most));
}

/** A symbol for each category, in their order over all rows. */
function symbolsOf({ layer, values, ids }: Drawing): Uint8Array | undefined {
  const column = values.get("symbol");
  const all = layer.all.prepared.keys.get("symbol");
  if (!column || !all) return undefined;
  const channel = layer.plan.query.channels.symbol;
  const places = new Map(categoriesOf(all, channel?.order).map(({ name }, place) => [name, place]));
  return Uint8Array.from(ids, (id) => places.get(nameAt(column, id)) ?? 0);
}

/** So many points can be opaque without making a blot. */
const FEW = 300;
const LIGHTEST = 0.4;

/**
 * Points of a crowd are lighter the more of them there are, so that where they lie over one another is
 * seen. It goes by all rows: a pick does not change how dark the rest is.
 */
function crowdOpacity({ layer }: Drawing): number {
  const isSaid = layer.looks.opacity !== undefined || "opacity" in layer.plan.query.channels;
  const count = layer.all.counts.length;
  return isSaid || layer.accent || count <= FEW ? 1 : Math.max(LIGHTEST, (FEW / count) ** 0.35);
}

/** Answers by whether they have many points; each panel asks. */
const crowded = new WeakMap<Answer, boolean>();

/** True where many points are drawn in all panels together; a pick leaves them as large as the rest is. */
function areMany({ base, current }: LayerInput): boolean {
  const answer = base?.answer ?? current;
  const { counts } = answer;
  if (counts.length <= AREA.above) return false;
  let many = crowded.get(answer);
  if (many === undefined) {
    let drawn = 0;
    for (let id = 0; id < counts.length && drawn <= AREA.above; id++) if (counts[id]) drawn += 1;
    many = drawn > AREA.above;
    crowded.set(answer, many);
  }
  return many;
}

/** The area of points that are all alike, in square pixels. */
function areaOf({ layer, ids, isLit }: Drawing): number {
  const { size } = layer.looks;
  if (typeof size === "number") return size;
  // A few that are lit are to be found among many.
  const many = isLit ? ids.length > AREA.above : areMany(layer);
  return many ? AREA.many : AREA.few;
}

/** How far the rim of a lit point reaches over it, in pixels: a category may have nearly the accent colour. */
const RIM = 1.5;

/** Where all rows are and in which colour, for points that stand for rows in categories of colour, or in one. */
function rowsOfCrowd({ input, values, stage, base }: Drawing): RowPlaces | undefined {
  const [x, y] = [rowPixels(values, "x", "x", stage), rowPixels(values, "y", "y", stage)];
  if (!x || !y) return undefined;
  const column = values.get("color");
  if (base.paints.length === 1) return { x, y, color: oneColor(x) };
  return column && input.color?.type === "categories"
    ? { x, y, color: colorsOfAll(input, column, x.length) }
    : undefined;
}

const plain = new WeakMap<Float64Array, Uint16Array>();

/** The first of the paints for every row, the same memory at each asking. */
function oneColor(rows: Float64Array): Uint16Array {
  const color = plain.get(rows) ?? new Uint16Array(rows.length);
  plain.set(rows, color);
  return color;
}

/** Discs as dark as words under lit points, by which they are found among others of any colour. */
function rimOf(discs: Discs): Discs {
  const { x, y, symbol } = discs;
  const radius = Float64Array.from(discs.ids, (_, mark) => discs.radiusAt(mark) + RIM);
  return new Discs({ ...discs, paints: ["ink"] }, { x, y, radius, ...(symbol ? { symbol } : {}) });
}

export const pointsDraw: MarkDraw = {
  discs: { reach: 14 },
  crowds: true,
  shapes(drawing) {
    const { layer, values, ids, stage } = drawing;
    const shaded = layer.options.shade === "density";
    const base = { ...drawing.base, opacity: drawing.base.opacity * (shaded ? 1 : crowdOpacity(drawing)) };
    const rows = rowsOfCrowd(drawing);
    const places = rows
      ? { rows }
      : { x: pixelPlaces(values, "x", "x", stage, ids), y: pixelPlaces(values, "y", "y", stage, ids) };
    const radius = radiiByValue(drawing) ?? Math.sqrt(areaOf(drawing) / Math.PI);
    const symbol = symbolsOf(drawing);
    const discs = new Discs(base, { ...places, radius, shaded, ...(symbol ? { symbol } : {}) });
    const beside = drawing.isLit ? [rimOf(discs)] : [];
    const { plot } = stage;
    // At the right of a point, or at its left where a label would leave the plot.
    const spotBeside = (mark: number, width: number): WordSpot => {
      const [x, y] = [discs.x[mark] as number, discs.y[mark] as number];
      const away = discs.radiusAt(mark) + 4;
      const isOut = x + away + width > plot.x + plot.width && x - away - width >= plot.x;
      return isOut ? { x: x - away, y, anchor: "end" } : { x: x + away, y, anchor: "start" };
    };
    return { beside, shapes: [discs], over: wordsAt(drawing, spotBeside, true) };
  },
};
