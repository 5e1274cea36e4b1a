import { type DrawnLayer, drawLayer } from "../mark/layer";
import type { AxisName, Stage } from "../mark/mark";
import type { Answer } from "../query/answer";
import { type Category, MISSING_NAME } from "../query/categories";
import { categoryScale, continuousScale, type Scale } from "../scale/scales";
import type { Box, Scene } from "../scene/scene";
import type { Shape } from "../scene/shapes/shape";
import { cutText } from "../scene/text-width";
import {
  type AxisInk,
  axisTitle,
  gridAcross,
  gridUp,
  lineBelow,
  lineLeft,
  TEXT,
  widestTick,
  wordsBelow,
  wordsLeft,
} from "./axis-lines";
import { axisCategories, labelOf } from "./categories";
import { axisDomain } from "./domain";
import type { ChartInput } from "./inputs";
import { inPanel, type PanelGrid, type PanelPlace, panelGrid } from "./panels";
import type { AxisPlan } from "./plan";

/** A small chart, or the only one: its plot with the axes in use, and its layers in full ink. */
export interface Panel extends Stage {
  names: PanelPlace["names"];
  layers: DrawnLayer[];
}

/** A chart drawn: the scene, and what is needed to ask it questions. */
export interface Drawn {
  scene: Scene;
  panels: Panel[];
}

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

function makeScale(
  input: ChartInput,
  name: AxisName,
  axis: AxisPlan,
  categories: Category[] | undefined,
  range: [number, number],
  within: ((answer: Answer, ids: Int32Array) => Int32Array) | undefined,
): Scale {
  const along = axis.reverse ? ([range[1], range[0]] as [number, number]) : range;
  if (categories) return categoryScale(categories.map(labelOf), along);
  const length = Math.abs(range[1] - range[0]);
  const spaced = name === "x" ? 80 : 46;
  const isInterval = input.layers.some((layer) => layer.all.prepared.edges.has(name));
  return continuousScale({
    kind: axis.kind,
    scale: axis.scale === "category" ? "linear" : axis.scale,
    domain: input.zoom?.[name] ?? axisDomain(input, name, axis, within),
    range: along,
    nice: !isInterval && !Array.isArray(axis.range) && !input.zoom?.[name],
    whole: axis.whole,
    tickCount: axis.ticks ?? Math.max(2, Math.round(length / spaced)),
    ...(axis.format === undefined ? {} : { format: axis.format }),
    ...(axis.columnFormat === undefined ? {} : { columnFormat: axis.columnFormat }),
  });
}

/** Draws a chart into a box of the given size. Pure: the same input gives the same scene everywhere. */
export function drawChart(input: ChartInput): Drawn {
  const { plan, width, height } = input;
  const { x: xAxis, y: yAxis } = plan.axes;
  const categories: Stage["categories"] = {};
  if (xAxis?.scale === "category") categories.x = axisCategories(input, "x");
  if (yAxis?.scale === "category") categories.y = axisCategories(input, "y");
  const grid = panelGrid(input);
  const xTitle = axisTitle(xAxis);
  const yTitle = axisTitle(yAxis);
  const room: Room = {
    top: yTitle ? 22 : 8,
    bottom: (xAxis && !xAxis.hidden ? 22 : 4) + (xTitle ? 16 : 0),
    left: 0,
    right: 14,
  };
  const isNamed = grid.places.some(({ names }) => Object.keys(names).length > 0);
  const heights = cellSizes(height - room.top - room.bottom, grid.rows, isNamed ? PANEL_HEAD : 0, GAP);
  const shares = { x: plan.panels?.share.includes("x") ?? true, y: plan.panels?.share.includes("y") ?? true };
  const tops = grid.places.map(({ row }) => room.top + row * (heights.size + heights.step) + heights.head);
  const within = (at: number, axis: AxisName) =>
    isNamed && !shares[axis] ? (answer: Answer, ids: Int32Array) => inPanel(grid, at, answer, ids) : undefined;
  const yScales = grid.places.map((_, at) => {
    if (!yAxis) return undefined;
    const top = tops[at] as number;
    const range: [number, number] = yAxis.scale === "category" ? [top, top + heights.size] : [top + heights.size, top];
    return makeScale(input, "y", yAxis, categories.y, range, within(at, "y"));
  });
  const widest = Math.max(0, ...yScales.map((scale) => widestTick(scale, yAxis)));
  room.left = Math.ceil(Math.min(widest, width * MOST_LABEL) + (yAxis && !yAxis.hidden ? 10 : 2));
  const widths = cellSizes(width - room.left - room.right, grid.columns, 0, shares.y ? GAP : GAP + room.left);

  const ink: AxisInk = { grid: [], axisLines: [], texts: [] };
  const panels = grid.places.map(({ column, names }, at): Panel & { base: Shape[] } => {
    const plot: Box = {
      x: room.left + column * (widths.size + widths.step),
      y: tops[at] as number,
      width: widths.size,
      height: heights.size,
    };
    const yScale = yScales[at];
    const xScale = xAxis
      ? makeScale(input, "x", xAxis, categories.x, [plot.x, plot.x + plot.width], within(at, "x"))
      : undefined;
    const stage: Stage = { plot, ...(xScale ? { x: xScale } : {}), ...(yScale ? { y: yScale } : {}), categories };
    const isLeft = column === 0 || !shares.y;
    drawAxes(input, stage, ink, { room, isLeft, isLowest: isLowest(grid, at) || !shares.x });
    if (isNamed) nameOver(ink, plot, names);
    return { ...stage, names, ...layersOf(input, stage, grid, at) };
  });
  if (yTitle && !yAxis?.hidden)
    ink.texts.push({ x: 0, y: 11, text: cutText(yTitle, width, TEXT), size: TEXT, paint: "quiet" });
  if (xTitle)
    ink.texts.push({
      x: width - room.right,
      y: height - 5,
      text: cutText(xTitle, width - room.left - room.right, TEXT),
      size: TEXT,
      paint: "quiet",
      anchor: "end",
    });
  const scene: Scene = {
    width,
    height,
    panels: panels.map(({ plot, base, layers }) => ({
      plot,
      shapes: [...base, ...layers.flatMap(({ beside = [], shapes }) => [...beside, ...shapes])],
    })),
    ...ink,
  };
  const isEmpty = scene.panels.every(({ shapes }) => shapes.every(({ ids }) => ids.length === 0));
  if (isEmpty) scene.message = input.empty ?? "No rows pass";
  return { scene, panels };
}

/** How long each of some cells in a row is, with the room that a head takes in each and a gap between them. */
function cellSizes(length: number, count: number, head: number, gap: number) {
  const size = Math.max(10, (length - gap * (count - 1)) / count - head);
  return { size, step: gap + head, head };
}

/** True if no other panel stands below. */
const isLowest = (grid: PanelGrid, at: number) =>
  !grid.places.some(({ row, column }) => column === grid.places[at]?.column && row > (grid.places[at]?.row ?? 0));

/** The layers of a panel: faintly below what selections fade, then what is in full ink. */
function layersOf(input: ChartInput, stage: Stage, grid: PanelGrid, at: number) {
  const within = (answer: Answer, ids: Int32Array) => inPanel(grid, at, answer, ids);
  const base = input.layers.flatMap((layer, place) => {
    if (!layer.base) return [];
    const { answer, opacity } = layer.base;
    const { beside = [], shapes } = drawLayer({ input, layer, place, answer, stage, opacity, within });
    return [...beside, ...shapes];
  });
  const layers = input.layers.map((layer, place) =>
    drawLayer({ input, layer, place, answer: layer.current, stage, opacity: 1, marksOwnPick: true, within }),
  );
  return { base, layers };
}

interface AxesPlace {
  room: Room;
  /** Words of the upright axis stand at this panel. */
  isLeft: boolean;
  /** Words of the level axis stand under this panel. */
  isLowest: boolean;
}

function drawAxes(input: ChartInput, stage: Stage, ink: AxisInk, { room, isLeft, isLowest }: AxesPlace) {
  const { x: xAxis, y: yAxis } = input.plan.axes;
  const { plot, x, y } = stage;
  if (y && yAxis && !yAxis.hidden) {
    gridAcross(ink, yAxis, y, plot);
    if (isLeft) wordsLeft(ink, y, plot, room.left);
  }
  if (x && xAxis && !xAxis.hidden) {
    gridUp(ink, xAxis, x, plot);
    if (isLowest) wordsBelow(ink, x, plot, input.width);
    if (input.plan.along === "x" || !y) lineBelow(ink, plot);
  }
  if (input.plan.along === "y" && y) lineLeft(ink, plot);
}

/** Which values a small chart is of, over its plot. */
function nameOver(ink: AxisInk, plot: Box, names: PanelPlace["names"]) {
  const text = Object.values(names)
    .map((name) => name ?? MISSING_NAME)
    .join(" · ");
  ink.texts.push({
    x: plot.x,
    y: plot.y - 6,
    text: cutText(text, plot.width, TEXT),
    size: TEXT,
    paint: "ink",
    bold: true,
  });
}
