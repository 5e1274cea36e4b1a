import { writer } from "../formula/format";
import type { Stage } from "../mark/mark";
import { singlePaint } from "../mark/paints";
import { categoryText } from "../query/write";
import { categoryScale, continuousScale, type Scale } from "../scale/scales";
import type { Box } from "../scene/scene";
import type { Paint } from "../scene/shapes/shape";
import { cutText } from "../scene/text-width";
import { paintInked } from "../scene/theme";
import {
  type AxisInk,
  axisTitle,
  gridAcross,
  gridUp,
  lineBelow,
  lineUp,
  widestTick,
  wordsBelow,
  wordsLeft,
  wordsRight,
  zeroOf,
} from "./axis-lines";
import { axisCategories, channelOn } from "./categories";
import { axisDomain, type Within } from "./domain";
import type { ChartInput } from "./inputs";
import { nameOver, type PanelStage } from "./panel-stage";
import { inPanel, type PanelGrid } from "./panels";
import { periodTicks } from "./period-ticks";
import type { AxisPlan } from "./plan";
import { LINE, TEXT, type WordsUnder, wordsUnder } from "./tick-words";

/** Most of the width that words at the left may take. */
const MOST_LABEL = 0.4;
/** Pixels between small charts, and the height of the word over each. */
const GAP = 18;
const PANEL_HEAD = 18;

interface Room {
  /** How words stand under the plots. */
  under: WordsUnder;
  top: number;
  bottom: number;
  left: number;
  right: number;
}

type ScaleOf = "x" | "y" | "y2";

function makeScale(
  { input, domains, categories: all }: Plane,
  name: ScaleOf,
  axis: AxisPlan,
  range: [number, number],
  panel: number,
): Scale {
  const categories = name === "y2" ? undefined : all[name];
  const along = axis.reverse ? ([range[1], range[0]] as [number, number]) : range;
  if (categories) {
    const channel = channelOn(input, name);
    const texts = categories.map((category) => categoryText(category.name, channel));
    return categoryScale(texts, along);
  }
  const length = Math.abs(range[1] - range[0]);
  // About as far apart as words on the axis are long.
  const spaced = name === "x" ? 84 : 64;
  const edges = input.layers.flatMap((layer) => layer.all.prepared.edges.get(name) ?? []);
  const grain = edges.find((own) => own.grain)?.grain;
  const zoom = name === "y2" ? undefined : input.zoom?.[name];
  const scale = continuousScale({
    kind: axis.kind,
    scale: axis.scale === "category" ? "linear" : axis.scale,
    domain: zoom ?? domains[name](axis, panel),
    range: along,
    nice: edges.length === 0 && !axis.bound && !Array.isArray(axis.range) && !zoom,
    whole: axis.whole,
    // Who looks closer sees what lies between.
    ...(grain && !zoom ? { grain } : {}),
    tickCount: axis.ticks ?? Math.max(2, Math.round(length / spaced)),
    ...(axis.format === undefined ? {} : { format: axis.format }),
    ...(axis.columnFormat === undefined ? {} : { columnFormat: axis.columnFormat }),
  });
  // How far a stream reaches from its middle is no amount of anything.
  if (input.plan.stacking === "stream" && name !== input.plan.along && axis.ticks === undefined)
    return { ...scale, ticks: [] };
  const ticks = axis.ticks === undefined && filledPeriods(input, name, axis, scale);
  return ticks ? { ...scale, ticks } : scale;
}

/** Ticks of an axis along which bars or cells fill periods. */
function filledPeriods({ plan, layers }: ChartInput, name: ScaleOf, { format }: AxisPlan, scale: Scale) {
  const edges = layers.map(({ all }) => all.prepared.edges.get(name)).find((own) => own?.grain);
  const write = format === undefined ? undefined : writer("date", format);
  return plan.overBars && edges && periodTicks(edges, scale, name === "x", write);
}

/** How long each of some cells in a row is, with the room that a head takes in each and a gap between them. */
function cellSizes(length: number, count: number, head: number, gap: number) {
  const size = Math.max(10, (length - gap * (count - 1)) / count - head);
  return { size, step: gap + head, head };
}

/** True if no other panel stands below. */
const isLowest = (grid: PanelGrid, at: number) =>
  !grid.places.some(({ row, column }) => column === grid.places[at]?.column && row > (grid.places[at]?.row ?? 0));

/** What the parts of a plane know of it: its chart, its panels, its categories and the words at its axes. */
interface Plane {
  input: ChartInput;
  grid: PanelGrid;
  categories: Stage["categories"];
  titles: Record<"x" | "y" | "y2", string>;
  /** True if panels have words over them. */
  isNamed: boolean;
  /** Axes of which all panels have the same stretch. */
  shares: { x: boolean; y: boolean };
  /** The stretch of a panel's axis. */
  domains: Record<ScaleOf, (axis: AxisPlan, panel: number) => [number, number]>;
}

function planeOf(input: ChartInput, grid: PanelGrid): Plane {
  const { axes, panels } = input.plan;
  const categories: Stage["categories"] = {};
  if (axes.x?.scale === "category") categories.x = axisCategories(input, "x");
  if (axes.y?.scale === "category") categories.y = axisCategories(input, "y");
  const isNamed = grid.places.some(({ names }) => Object.keys(names).length > 0);
  const shares = { x: panels?.share.includes("x") ?? true, y: panels?.share.includes("y") ?? true };
  return {
    input,
    grid,
    categories,
    titles: { x: axisTitle(axes.x), y: axisTitle(axes.y), y2: axisTitle(axes.y2) },
    isNamed,
    shares,
    domains: {
      x: domainsOf(input, grid, "x", isNamed && !shares.x),
      y: domainsOf(input, grid, "y", isNamed && !shares.y),
      y2: domainsOf(input, grid, "y2", isNamed && !shares.y),
    },
  };
}

/** The stretches of an axis: of each panel from its own rows, or one for all of them, which is made once. */
function domainsOf(input: ChartInput, grid: PanelGrid, name: ScaleOf, areOwn: boolean): Plane["domains"][ScaleOf] {
  const panels = grid.places.map(
    (_, at): Within =>
      (answer, ids) =>
        inPanel(grid, at, answer, ids),
  );
  if (areOwn) return (axis, panel) => axisDomain(input, name, axis, panels[panel]);
  let shared: [number, number] | undefined;
  return (axis) => {
    shared ??= axisDomain(input, name, axis, undefined, panels);
    return shared;
  };
}

/** About what stands beside plots, in pixels: how wide they are is known only with the words of upright axes. */
const BESIDE = 60;

/** Most of the height that slanted words may take. */
const MOST_SLANTED = 0.3;

/** How the words under the plots stand. */
function wordsBelowPlots({ input, grid, categories }: Plane): WordsUnder {
  if (!categories.x || input.plan.axes.x?.hidden) return { lines: 1 };
  const channel = channelOn(input, "x");
  const panel = (input.width - BESIDE - GAP * (grid.columns - 1)) / grid.columns;
  const textAt = (at: number) => categoryText(categories.x?.[at]?.name ?? null, channel);
  const { length } = categories.x;
  return wordsUnder(length, textAt, panel / length, input.height * MOST_SLANTED);
}

/** Over and under the plots: room for titles, and for words along the lower axis. */
function roomAlong(plane: Plane): Room {
  const { input, titles } = plane;
  const { plan } = input;
  const { x } = plan.axes;
  const under = wordsBelowPlots(plane);
  const words = under.slant === undefined ? 22 + (under.lines - 1) * LINE : under.slant + 8;
  const bottom = (x && !x.hidden ? words : 4) + (titles.x ? 16 : 0);
  return {
    under,
    top: Math.max(titles.y || titles.y2 || input.saysRange ? 22 : 8, plan.margin?.top ?? 0),
    bottom: Math.max(bottom, plan.margin?.bottom ?? 0),
    left: 0,
    right: 14,
  };
}

/** The scale of an upright axis in each panel, of which `tops` says where they begin. */
function uprightScales(plane: Plane, name: "y" | "y2", tops: readonly number[], height: number) {
  const axis = plane.input.plan.axes[name];
  return tops.map((top, at) => {
    if (!axis) return undefined;
    const isList = name === "y" && axis.scale === "category";
    const range: [number, number] = isList ? [top, top + height] : [top + height, top];
    return makeScale(plane, name, axis, range, at);
  });
}

/**
 * Beside the plots: room for words at upright axes, which are known only with their scales. Gives how much of it
 * stands between two panels with words of their own.
 */
function roomBeside({ input }: Plane, room: Room, ink: AxisInk, y: (Scale | undefined)[], y2: (Scale | undefined)[]) {
  const { plan, width } = input;
  const { y: yAxis, y2: rightAxis } = plan.axes;
  const widest = Math.max(0, ...y.map((scale) => widestTick(scale, yAxis)));
  const upright = Math.ceil(Math.min(widest, width * MOST_LABEL));
  const isRight = yAxis?.side === "right";
  const left = (isRight ? 0 : upright) + (yAxis && !yAxis.hidden && !isRight ? 10 : 2);
  if (isRight) room.right += upright;
  if (rightAxis) room.right += Math.ceil(Math.max(0, ...y2.map((scale) => widestTick(scale, rightAxis))));
  ink.left = Math.max(left, plan.margin?.left ?? 0);
  room.left = Math.max(ink.left, Math.min(input.left ?? 0, width * MOST_LABEL));
  room.right = Math.max(room.right, plan.margin?.right ?? 0);
  return Math.max(room.left, isRight ? upright : 0);
}

/** The plots of a chart with their axes, whose lines and words go into the ink. */
export function planeStages(input: ChartInput, grid: PanelGrid, ink: AxisInk): PanelStage[] {
  const plane = planeOf(input, grid);
  const { categories, isNamed, shares } = plane;
  const { plan, width, height } = input;
  const { x: xAxis, y: yAxis, y2: rightAxis } = plan.axes;
  const isRight = yAxis?.side === "right";
  const room = roomAlong(plane);
  const heights = cellSizes(height - room.top - room.bottom, grid.rows, isNamed ? PANEL_HEAD : 0, GAP);
  const tops = grid.places.map(({ row }) => room.top + row * (heights.size + heights.step) + heights.head);
  const yScales = uprightScales(plane, "y", tops, heights.size);
  const rightScales = uprightScales(plane, "y2", tops, heights.size);
  const beside = roomBeside(plane, room, ink, yScales, rightScales);
  const widths = cellSizes(width - room.left - room.right, grid.columns, 0, shares.y ? GAP : GAP + beside);
  const second = secondPaint(input);
  const panels = grid.places.map(({ column, names }, at): PanelStage => {
    const left = room.left + column * (widths.size + widths.step);
    const plot: Box = { x: left, y: tops[at] as number, width: widths.size, height: heights.size };
    const [y, y2] = [yScales[at], rightScales[at]];
    const x = xAxis && makeScale(plane, "x", xAxis, [left, left + plot.width], at);
    const stage: Stage = { plot, ...(x ? { x } : {}), ...(y ? { y } : {}), categories };
    if (plan.overBars) stage.bars = plan.along;
    drawAxes(input, stage, ink, {
      room,
      hasWords: column === (isRight ? grid.columns - 1 : 0) || !shares.y,
      isLowest: isLowest(grid, at) || !shares.x,
    });
    if (y2 && rightAxis && !rightAxis.hidden) {
      lineUp(ink, plot, plot.x + plot.width, second);
      wordsRight(ink, y2, plot, room.right, second && paintInked(second));
    }
    if (isNamed) nameOver(ink, plot, input, names);
    return { stage, others: othersOn(input, stage, y2), names };
  });
  const { x, y, y2: right } = plane.titles;
  drawTitles(ink, input, room, isRight ? { x, y: "", right: y } : { x, y, right }, second);
  return panels;
}

/** The paint of the marks on a second scale, if they have one together. */
function secondPaint(input: ChartInput): Paint | undefined {
  const paints = input.layers.filter(({ plan }) => plan.side === "right").map((layer) => singlePaint(input, layer));
  return paints.every((paint) => paint === paints[0]) ? paints[0] : undefined;
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

function drawTitles(
  ink: AxisInk,
  { width, height }: ChartInput,
  room: Room,
  texts: Record<"x" | "y" | "right", string>,
  second: Paint | undefined,
) {
  const quiet = { size: TEXT, paint: "quiet" };
  const half = texts.right && texts.y ? width / 2 : width;
  if (texts.y) ink.texts.push({ x: 0, y: 11, text: cutText(texts.y, half, TEXT), ...quiet });
  if (texts.right) {
    const paint = second === undefined ? "quiet" : paintInked(second);
    ink.texts.push({ x: width, y: 11, text: cutText(texts.right, half, TEXT), size: TEXT, paint, anchor: "end" });
  }
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
  // A stream lies about its middle, which is no zero.
  const lengths = (axis: AxisPlan | undefined) => (input.plan.stacking === "stream" ? undefined : axis);
  if (y && yAxis && !yAxis.hidden) {
    gridAcross(ink, yAxis, y, plot);
    if (hasWords && yAxis.side === "right") wordsRight(ink, y, plot, room.right);
    else if (hasWords) wordsLeft(ink, y, plot, room.left);
  }
  if (x && xAxis && !xAxis.hidden) {
    gridUp(ink, xAxis, x, plot);
    if (isLowest) wordsBelow(ink, x, plot, input.width, room.under, input.plan.panels !== undefined);
    if (input.plan.along === "x" || !y) lineBelow(ink, plot, zeroOf(lengths(yAxis), y, plot.y + plot.height));
  }
  if (input.plan.along === "y" && y)
    lineUp(ink, plot, zeroOf(lengths(xAxis), x, yAxis?.side === "right" ? plot.x + plot.width : plot.x));
}
