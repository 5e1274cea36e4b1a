import { plainValue } from "../query/categories";
import { writeNumber } from "../query/write";
import { Discs } from "../scene/shapes/discs";
import { Rects } from "../scene/shapes/rects";
import { Segments } from "../scene/shapes/segments";
import { type BoxNumbers, boxNumbers } from "../stat/box-numbers";
import { otherAxis } from "./bars";
import type { Drawing, MarkDraw, MarkSpec, Marks } from "./mark";
import { paintsOf } from "./paints";
import { axisValues } from "./place-values";
import { sortedGroups } from "./row-groups";

export const boxesSpec = {
  name: "boxes",
  says: "Quartiles, whiskers at 1.5 times their distance, and the rows beyond, for each category.",
  many: "boxes",
  needs: [["x", "y"]],
  needed: "boxes need a category and a measure: x: and y:",
  takes: ["x", "y", "color", "opacity"],
  merges: ["x", "y", "color"],
  axis: ({ along }) => (along ? { grid: false, scale: "category" } : {}),
  stacking: () => "beside",
} as const satisfies MarkSpec;

/** Widest half of a box in pixels, and the part of its band that it takes. */
const HALF = { part: 0.3, most: 28 };
const OUTLIER = Math.sqrt(14 / Math.PI);

interface Box extends BoxNumbers {
  /** The first of its rows and its colour, and the rows beyond its whiskers as they stand in the table. */
  first: number;
  color: number;
  beyond: Int32Array;
  /** Half of its width, and its middle along the axis, in pixels. */
  middle: number;
  half: number;
}

/** Rows with those first that are picked: a box is picked where one of its rows is, and that one stands for it. */
function pickedFirst({ picked, ids }: Drawing): Int32Array {
  const isPicked = picked(ids);
  if (!isPicked) return ids;
  const first = ids.filter((_, at) => isPicked[at]);
  const ordered = new Int32Array(ids.length);
  ordered.set(first);
  ordered.set(
    ids.filter((_, at) => !isPicked[at]),
    first.length,
  );
  return ordered;
}

/** The boxes of a layer, each in its band or, coloured, in its part of the band. */
function boxesOf(drawing: Drawing): Box[] {
  const { input, layer, values, stage, base } = drawing;
  const { along } = input.plan;
  const numbers = values.numbers(otherAxis(along));
  const scale = stage[along];
  if (!numbers || !scale) return [];
  const colorCount = input.color?.type === "categories" ? input.color.names.length : 1;
  const isBeside = input.plan.stacking === "beside" && colorCount > 1 && values.get("color") !== undefined;
  const isOwnColor =
    values.get("color") !== undefined &&
    input.layers[base.layer]?.plan.query.channels.color?.text ===
      input.layers[base.layer]?.plan.query.channels[along]?.text;
  const whole = Math.min(scale.band * HALF.part, HALF.most);
  const groups = sortedGroups(values, pickedFirst(drawing), [along, "color"], numbers);
  const firsts = Int32Array.from(groups, ({ first }) => first);
  const places = axisValues(values, along, along, stage, firsts);
  const { color: colors } = paintsOf(input, layer, values, firsts);
  const boxes = groups.flatMap((group, place): Box[] => {
    const found = boxNumbers(group);
    if (!found) return [];
    const color = colors[place] as number;
    const own = { ...found, first: group.first, color, beyond: group.rowsBeyond(...found.reach) };
    const band = scale.place(places[place] as number);
    if (!isBeside || isOwnColor) return [{ ...own, middle: band, half: whole }];
    const step = (2 * whole) / colorCount;
    return [{ ...own, middle: band - whole + step * (color + 0.5), half: Math.max(1, step / 2 - 1) }];
  });
  // In the order of the axis, as keys walk them and `rows()` gives them.
  return boxes.sort((a, b) => a.middle - b.middle);
}

export const boxesDraw: MarkDraw = {
  crowds: true,
  shapes(drawing) {
    const { input, values, stage, base } = drawing;
    const { along } = input.plan;
    const across = stage[otherAxis(along)];
    const boxes = boxesOf(drawing);
    if (!across) return { shapes: [] };
    const own = {
      ...base,
      ids: Int32Array.from(boxes, ({ first }) => first),
      color: Uint16Array.from(boxes, ({ color }) => (drawing.isLit ? 0 : color)),
    };
    return { ...boxShapes(drawing, boxes, own, across.place), ...boxWords(drawing, boxes, values) };
  },
};

/** Boxes lower than this, in pixels, are a line by themselves: that of the median would cover them. */
const FLAT = 4;

/** One end of the lines of medians; in a flat box both ends are one, and nothing is drawn. */
const endOf = (middle: Float64Array, end: Float64Array, height: (at: number) => number) =>
  end.map((pixel, at) => (height(at) < FLAT ? (middle[at] as number) : pixel));

/** A box with its median and whiskers, and a disc for each row beyond. */
function boxShapes(
  { input, values, base, isLit }: Drawing,
  boxes: readonly Box[],
  own: Drawing["base"],
  pixel: (value: number) => number,
): Pick<Marks, "shapes" | "beside" | "over"> {
  const isUpright = input.plan.along === "x";
  const list = (value: (box: Box) => number) => Float64Array.from(boxes, value);
  const turned = (middle: Float64Array, across: Float64Array) => (isUpright ? [middle, across] : [across, middle]);
  const strokes = (
    parts: [along1: Float64Array, across1: Float64Array, along2: Float64Array, across2: Float64Array],
    width: number,
    paint?: string,
  ) => {
    const [x1, y1] = turned(parts[0], parts[1]) as [Float64Array, Float64Array];
    const [x2, y2] = turned(parts[2], parts[3]) as [Float64Array, Float64Array];
    const look = paint ? { ...own, paints: [paint], color: new Uint16Array(boxes.length) } : own;
    return new Segments(look, { x1, y1, x2, y2, width });
  };
  const [middle, left, right] = [list((b) => b.middle), list((b) => b.middle - b.half), list((b) => b.middle + b.half)];
  const [low, q1, median, q3, high] = (["low", "q1", "median", "q3", "high"] as const).map((name) =>
    list((box) => pixel(box[name])),
  ) as [Float64Array, Float64Array, Float64Array, Float64Array, Float64Array];
  const thickness = list((box) => 2 * box.half);
  const begin = q1.map((value, at) => Math.min(value, q3[at] as number));
  const height = (at: number) => Math.abs((q1[at] as number) - (q3[at] as number));
  const length = q1.map((_, at) => Math.max(FLAT / 2, height(at)));
  const rects = isUpright
    ? { x: left, y: begin, width: thickness, height: length }
    : { x: begin, y: left, width: length, height: thickness };
  const numbers = values.numbers(isUpright ? "y" : "x") as Float64Array;
  const count = boxes.reduce((sum, { beyond }) => sum + beyond.length, 0);
  const [ids, colors] = [new Int32Array(count), new Uint16Array(count)];
  const [middles, across] = [new Float64Array(count), new Float64Array(count)];
  let at = 0;
  for (const box of boxes)
    for (const row of box.beyond) {
      ids[at] = row;
      colors[at] = isLit ? 0 : box.color;
      middles[at] = box.middle;
      across[at] = pixel(numbers[row] as number);
      at += 1;
    }
  const [x, y] = turned(middles, across) as [Float64Array, Float64Array];
  const outliers = new Discs({ ...base, ids, color: colors }, { x, y, radius: OUTLIER });
  return {
    shapes: [new Rects(own, rects), outliers],
    beside: [strokes([middle, low, middle, q1], 1.2), strokes([middle, q3, middle, high], 1.2)],
    over: [strokes([endOf(middle, left, height), median, endOf(middle, right, height), median], 1.8, "sheet")],
  };
}

/** What rows() and tooltips say of boxes, and of the rows beyond. */
function boxWords(
  { input, layer }: Drawing,
  boxes: readonly Box[],
  values: Drawing["values"],
): Pick<Marks, "plain" | "lines"> {
  const { along } = input.plan;
  const measured = otherAxis(along);
  const numbers = values.numbers(measured) as Float64Array;
  let listed: number[] | undefined;
  // Asked for by scripts and the pointer, not by drawing.
  const beyond = () => {
    listed ??= boxes.flatMap(({ beyond: rows }) => [...rows]);
    return listed;
  };
  const keysOf = (id: number) =>
    Object.fromEntries(
      [along, "color"].flatMap((name) => {
        const column = values.get(name);
        return column ? [[name, plainValue(column, id)] as const] : [];
      }),
    );
  const channel = layer.plan.query.channels[measured];
  const unit = channel?.unit === undefined ? {} : { unit: channel.unit };
  const line = (label: string, value: number) => ({ label, text: channel ? writeNumber(channel, value) : "", ...unit });
  return {
    plain(shape, mark) {
      if (shape === 1) {
        const id = beyond()[mark] as number;
        const column = values.get(measured);
        return { ...keysOf(id), [measured]: column ? plainValue(column, id) : null, outlier: true };
      }
      const { first, low, q1, median, q3, high } = boxes[mark] as Box;
      return { ...keysOf(first), low, q1, median, q3, high };
    },
    lines(shape, mark) {
      const id = shape === 1 ? (beyond()[mark] as number) : (boxes[mark] as Box).first;
      const key = layer.plan.query.channels[along];
      const column = values.get(along);
      const head = key && column ? [{ label: key.label, text: String(plainValue(column, id) ?? "missing") }] : [];
      if (shape === 1) return [...head, line(channel?.label ?? measured, numbers[id] as number)];
      const { low, q1, median, q3, high, count } = boxes[mark] as Box;
      return [
        ...head,
        line("highest within reach", high),
        line("upper quartile", q3),
        line("median", median),
        line("lower quartile", q1),
        line("lowest within reach", low),
        { label: "rows", text: String(count) },
      ];
    },
  };
}
