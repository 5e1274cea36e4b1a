import type { Stage } from "../mark/mark";
import type { Answer } from "../query/answer";
import type { Category } from "../query/categories";
import { categoryText } from "../query/write";
import { categoryScale, continuousScale, type Scale } from "../scale/scales";
import type { Box } from "../scene/scene";
import { cutText } from "../scene/text-width";
import {
  type AxisInk,
  axisTitle,
  gridAcross,
  gridUp,
  lineBelow,
  lineLeft,
  lineRight,
  TEXT,
  widestTick,
  wordsBelow,
  wordsLeft,
  wordsRight,
} from "./axis-lines";
import { axisCategories, channelOn } from "./categories";
import { axisDomain } from "./domain";
import type { ChartInput } from "./inputs";
import { nameOver, type PanelStage } from "./panel-stage";
import { inPanel, type PanelGrid } from "./panels";
import type { AxisPlan } from "./plan";

/** Most of the width that words at the left may take. */
const MOST_LABEL = 0.4;
/** Pixels between small charts, and the height of the word over each. */
const GAP = 18;
const PANEL_HEAD = 18;

interface Room {
  top: number;
  bottom: number;
  left: number;
  right: number;
}

type ScaleOf = "x" | "y" | "y2";
type Within = ((answer: Answer, ids: Int32Array) => Int32Array) | undefined;

function makeScale(
  input: ChartInput,
  name: ScaleOf,
  axis: AxisPlan,
  categories: Category[] | undefined,
  range: [number, number],
  within: Within,
): Scale {
  const along = axis.reverse ? ([range[1], range[0]] as [number, number]) : range;
  if (categories) {
    const channel = channelOn(input, name);
    const texts = categories.map((category) => categoryText(category.name, channel));
    return categoryScale(texts, along);
  }
  const length = Math.abs(range[1] - range[0]);
  // About as far apart as words on the axis are long.
  const spaced = name === "x" ? 84 : 64;
  const isInterval = input.layers.some((layer) => layer.all.prepared.edges.has(name));
  const zoom = name === "y2" ? undefined : input.zoom?.[name];
  return continuousScale({
    kind: axis.kind,
    scale: axis.scale === "category" ? "linear" : axis.scale,
    domain: zoom ?? axisDomain(input, name, axis, within),
    range: along,
    nice: !isInterval && !axis.bound && !Array.isArray(axis.range) && !zoom,
    whole: axis.whole,
    tickCount: axis.ticks ?? Math.max(2, Math.round(length / spaced)),
    ...(axis.format === undefined ? {} : { format: axis.format }),
    ...(axis.columnFormat === undefined ? {} : { columnFormat: axis.columnFormat }),
  });
}

/** How long each of some cells in a row is, with the room that a head takes in each and a gap between them. */
function cellSizes(length: number, count: number, head: number, gap: number) {
  const size = Math.max(10, (length - gap * (count - 1)) / count - head);
  return { size, step: gap + head, head };
}

/** True if no other panel stands below. */
const isLowest = (grid: PanelGrid, at: number) =>
  !grid.places.some(({ row, column }) => column === grid.places[at]?.column && row > (grid.places[at]?.row ?? 0));

/** The plots of a chart with their axes, whose lines and words go into the ink. */
export function planeStages(input: ChartInput, grid: PanelGrid, ink: AxisInk): PanelStage[] {
  const { plan, width, height } = input;
  const { x: xAxis, y: yAxis, y2: rightAxis } = plan.axes;
  const categories: Stage["categories"] = {};
  if (xAxis?.scale === "category") categories.x = axisCategories(input, "x");
  if (yAxis?.scale === "category") categories.y = axisCategories(input, "y");
  const [xTitle, yTitle, rightTitle] = [xAxis, yAxis, rightAxis].map(axisTitle) as [string, string, string];
  const room: Room = {
    top: yTitle || rightTitle ? 22 : 8,
    bottom: (xAxis && !xAxis.hidden ? 22 : 4) + (xTitle ? 16 : 0),
    left: 0,
    right: 14,
  };
  room.top = Math.max(room.top, plan.margin?.top ?? 0);
  room.bottom = Math.max(room.bottom, plan.margin?.bottom ?? 0);
  const isNamed = grid.places.some(({ names }) => Object.keys(names).length > 0);
  const heights = cellSizes(height - room.top - room.bottom, grid.rows, isNamed ? PANEL_HEAD : 0, GAP);
  const shares = { x: plan.panels?.share.includes("x") ?? true, y: plan.panels?.share.includes("y") ?? true };
  const tops = grid.places.map(({ row }) => room.top + row * (heights.size + heights.step) + heights.head);
  const within = (at: number, axis: "x" | "y"): Within =>
    isNamed && !shares[axis] ? (answer, ids) => inPanel(grid, at, answer, ids) : undefined;
  const uprightScale = (at: number, name: "y" | "y2", axis: AxisPlan | undefined) => {
    if (!axis) return undefined;
    const top = tops[at] as number;
    const isList = name === "y" && axis.scale === "category";
    const range: [number, number] = isList ? [top, top + heights.size] : [top + heights.size, top];
    return makeScale(input, name, axis, name === "y" ? categories.y : undefined, range, within(at, "y"));
  };
  const yScales = grid.places.map((_, at) => uprightScale(at, "y", yAxis));
  const rightScales = grid.places.map((_, at) => uprightScale(at, "y2", rightAxis));
  const widest = Math.max(0, ...yScales.map((scale) => widestTick(scale, yAxis)));
  const { margin = {} } = plan;
  const upright = Math.ceil(Math.min(widest, width * MOST_LABEL));
  const isRight = yAxis?.side === "right";
  room.left = (isRight ? 0 : upright) + (yAxis && !yAxis.hidden && !isRight ? 10 : 2);
  if (isRight) room.right += upright;
  if (rightAxis) room.right += Math.ceil(Math.max(0, ...rightScales.map((scale) => widestTick(scale, rightAxis))));
  ink.left = Math.max(room.left, margin.left ?? 0);
  room.left = Math.max(ink.left, Math.min(input.left ?? 0, width * MOST_LABEL));
  room.right = Math.max(room.right, margin.right ?? 0);
  const widths = cellSizes(
    width - room.left - room.right,
    grid.columns,
    0,
    shares.y ? GAP : GAP + Math.max(room.left, isRight ? upright : 0),
  );
  const panels = grid.places.map(({ column, names }, at): PanelStage => {
    const plot: Box = {
      x: room.left + column * (widths.size + widths.step),
      y: tops[at] as number,
      width: widths.size,
      height: heights.size,
    };
    const [y, y2] = [yScales[at], rightScales[at]];
    const x = xAxis
      ? makeScale(input, "x", xAxis, categories.x, [plot.x, plot.x + plot.width], within(at, "x"))
      : undefined;
    const stage: Stage = { plot, ...(x ? { x } : {}), ...(y ? { y } : {}), categories };
    if (plan.overBars) stage.bars = plan.along;
    drawAxes(input, stage, ink, {
      room,
      hasWords: column === (isRight ? grid.columns - 1 : 0) || !shares.y,
      isLowest: isLowest(grid, at) || !shares.x,
    });
    if (y2 && rightAxis && !rightAxis.hidden) wordsRight(ink, y2, plot, room.right);
    if (isNamed) nameOver(ink, plot, input, names);
    return { stage, others: othersOn(input, stage, y2), names };
  });
  titles(ink, input, room, { x: xTitle, ...(isRight ? { y: "", right: yTitle } : { y: yTitle, right: rightTitle }) });
  return panels;
}

/** Layers with a scale of their own at the right. */
function othersOn({ layers }: ChartInput, stage: Stage, y2: Scale | undefined): Map<number, Stage> {
  const others = new Map<number, Stage>();
  layers.forEach(({ plan }, place) => {
    if (plan.side === "right" && y2) {
      const { y: _, ...categories } = stage.categories;
      others.set(place, { ...stage, y: y2, categories });
    }
  });
  return others;
}

function titles(ink: AxisInk, { width, height }: ChartInput, room: Room, texts: Record<"x" | "y" | "right", string>) {
  const quiet = { size: TEXT, paint: "quiet" };
  const half = texts.right && texts.y ? width / 2 : width;
  if (texts.y) ink.texts.push({ x: 0, y: 11, text: cutText(texts.y, half, TEXT), ...quiet });
  if (texts.right) ink.texts.push({ x: width, y: 11, text: cutText(texts.right, half, TEXT), ...quiet, anchor: "end" });
  if (texts.x)
    ink.texts.push({
      x: width - room.right,
      y: height - 5,
      text: cutText(texts.x, width - room.left - room.right, TEXT),
      ...quiet,
      anchor: "end",
    });
}

interface AxesPlace {
  room: Room;
  /** Words of the upright axis stand at this panel. */
  hasWords: boolean;
  /** Words of the level axis stand under this panel. */
  isLowest: boolean;
}

function drawAxes(input: ChartInput, stage: Stage, ink: AxisInk, { room, hasWords, isLowest }: AxesPlace) {
  const { x: xAxis, y: yAxis } = input.plan.axes;
  const { plot, x, y } = stage;
  if (y && yAxis && !yAxis.hidden) {
    gridAcross(ink, yAxis, y, plot);
    if (hasWords && yAxis.side === "right") wordsRight(ink, y, plot, room.right);
    else if (hasWords) wordsLeft(ink, y, plot, room.left);
  }
  if (x && xAxis && !xAxis.hidden) {
    gridUp(ink, xAxis, x, plot);
    if (isLowest) wordsBelow(ink, x, plot, input.width, input.plan.panels !== undefined);
    if (input.plan.along === "x" || !y) lineBelow(ink, plot);
  }
  if (input.plan.along === "y" && y) (yAxis?.side === "right" ? lineRight : lineLeft)(ink, plot);
}
