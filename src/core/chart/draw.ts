import { layerMarks } from "../mark/marks";
import type { Category } from "../query/categories";
import type { LayerValues } from "../query/values";
import { categoryScale, continuousScale, type Scale } from "../scale/scales";
import type { Box, Marks, Scene, SceneLine, SceneText } from "../scene/scene";
import { cutText, textWidth } from "../scene/text-width";
import { axisCategories, axisDomain, labelOf } from "./axes";
import type { ChartInput } from "./inputs";
import type { AxisPlan } from "./plan";

/** A chart drawn: the scene, and what is needed to ask it questions. */
export interface Drawn {
  scene: Scene;
  x?: Scale;
  y?: Scale;
  categories: { x?: Category[]; y?: Category[] };
  /** Full-ink marks of each layer with the values behind them. */
  layers: { marks: Marks; values: LayerValues }[];
}

const TEXT = 12;
const MOST_LABEL = 0.4;

function axisTitle(axis: AxisPlan): string {
  if (axis.title === "") return "";
  return axis.unit ? `${axis.title}, ${axis.unit}` : axis.title;
}

function makeScale(
  input: ChartInput,
  name: "x" | "y",
  axis: AxisPlan,
  categories: Category[] | undefined,
  range: [number, number],
): Scale {
  const along = axis.reverse ? ([range[1], range[0]] as [number, number]) : range;
  if (categories) return categoryScale(categories.map(labelOf), along);
  const length = Math.abs(range[1] - range[0]);
  const spaced = name === "x" ? 80 : 46;
  const isInterval = input.layers.some((layer) => layer.all.prepared.edges.has(name));
  return continuousScale({
    kind: axis.kind,
    scale: axis.scale === "category" ? "linear" : axis.scale,
    domain: axisDomain(input, name, axis),
    range: along,
    nice: !isInterval && !Array.isArray(axis.range),
    whole: axis.whole,
    tickCount: axis.ticks ?? Math.max(2, Math.round(length / spaced)),
    ...(axis.format === undefined ? {} : { format: axis.format }),
    ...(axis.columnFormat === undefined ? {} : { columnFormat: axis.columnFormat }),
  });
}

/** Ticks so far apart that their words do not touch. */
function spacedTicks(scale: Scale) {
  let last = Number.NEGATIVE_INFINITY;
  const ordered = [...scale.ticks].sort((a, b) => a.place - b.place);
  return ordered.filter((tick) => {
    const half = textWidth(tick.text, TEXT) / 2;
    if (tick.place - half < last + 6) return false;
    last = tick.place + half;
    return true;
  });
}

/** Draws a chart into a box of the given size. Pure: the same input gives the same scene everywhere. */
export function drawChart(input: ChartInput): Drawn {
  const { plan, width, height } = input;
  const { x: xAxis, y: yAxis } = plan.axes;
  const categories: Drawn["categories"] = {};
  if (xAxis?.scale === "category") categories.x = axisCategories(input, "x");
  if (yAxis?.scale === "category") categories.y = axisCategories(input, "y");
  const yTitle = yAxis && !yAxis.hidden ? axisTitle(yAxis) : "";
  const xTitle = xAxis && !xAxis.hidden ? axisTitle(xAxis) : "";
  const top = yTitle ? 22 : 8;
  const bottom = (xAxis && !xAxis.hidden ? 22 : 4) + (xTitle ? 16 : 0);
  const plotHeight = Math.max(10, height - top - bottom);
  const yScale = yAxis
    ? makeScale(
        input,
        "y",
        yAxis,
        categories.y,
        yAxis.scale === "category" ? [top, top + plotHeight] : [top + plotHeight, top],
      )
    : undefined;
  const widest = yScale && !yAxis?.hidden ? Math.max(0, ...yScale.ticks.map((tick) => textWidth(tick.text, TEXT))) : 0;
  const left = Math.ceil(Math.min(widest, width * MOST_LABEL) + (yScale && !yAxis?.hidden ? 10 : 2));
  const right = 14;
  const plot: Box = { x: left, y: top, width: Math.max(10, width - left - right), height: plotHeight };
  const xScale = xAxis ? makeScale(input, "x", xAxis, categories.x, [plot.x, plot.x + plot.width]) : undefined;

  const grid: SceneLine[] = [];
  const axisLines: SceneLine[] = [];
  const texts: SceneText[] = [];
  const upper = yScale && yAxis && !yAxis.hidden;
  if (upper) {
    for (const tick of yScale.ticks) {
      if (yAxis.grid && yScale.type !== "category")
        grid.push({
          x1: plot.x,
          y1: Math.round(tick.place) + 0.5,
          x2: plot.x + plot.width,
          y2: Math.round(tick.place) + 0.5,
          paint: "rule",
        });
    }
    const shown = yScale.type === "category" ? everyNth(yScale) : yScale.ticks;
    for (const tick of shown)
      texts.push({
        x: left - 8,
        y: tick.place + 4,
        text: cutText(tick.text, left - 10, TEXT),
        size: TEXT,
        paint: yScale.type === "category" ? "ink" : "quiet",
        anchor: "end",
      });
    if (yTitle) texts.push({ x: 0, y: 11, text: cutText(yTitle, width, TEXT), size: TEXT, paint: "quiet" });
  }
  if (xScale && xAxis && !xAxis.hidden) {
    const below = plot.y + plot.height;
    for (const tick of xScale.ticks) {
      if (xAxis.grid && xScale.type !== "category")
        grid.push({
          x1: Math.round(tick.place) + 0.5,
          y1: plot.y,
          x2: Math.round(tick.place) + 0.5,
          y2: below,
          paint: "rule",
        });
    }
    const room = xScale.type === "category" ? xScale.band - 4 : Number.POSITIVE_INFINITY;
    const narrow = xScale.type === "category" && xScale.ticks.some((tick) => textWidth(tick.text, TEXT) > room);
    const shown = narrow
      ? xScale.ticks
          .map((tick) => ({ ...tick, text: cutText(tick.text, Math.max(12, room), TEXT) }))
          .filter((_, i) => room > 12 || i % Math.ceil(16 / xScale.band) === 0)
      : spacedTicks(xScale);
    for (const tick of shown) {
      const half = textWidth(tick.text, TEXT) / 2;
      texts.push({
        x: Math.max(half, Math.min(width - half, tick.place)),
        y: below + 17,
        text: tick.text,
        size: TEXT,
        paint: xScale.type === "category" ? "ink" : "quiet",
        anchor: "middle",
      });
    }
    if (xTitle)
      texts.push({
        x: plot.x + plot.width,
        y: below + 33,
        text: cutText(xTitle, plot.width, TEXT),
        size: TEXT,
        paint: "quiet",
        anchor: "end",
      });
    if (plan.along === "x" || !yScale)
      axisLines.push({
        x1: plot.x,
        y1: Math.round(below) + 0.5,
        x2: plot.x + plot.width,
        y2: Math.round(below) + 0.5,
        paint: "quiet",
      });
  }
  if (plan.along === "y" && yScale)
    axisLines.push({ x1: plot.x + 0.5, y1: plot.y, x2: plot.x + 0.5, y2: plot.y + plot.height, paint: "quiet" });

  const frames = { ...(xScale ? { x: xScale } : {}), ...(yScale ? { y: yScale } : {}), categories };
  const marks: Marks[] = [];
  input.layers.forEach((layer, place) => {
    if (layer.base)
      marks.push(layerMarks(input, layer, layer.base.answer, frames, place, layer.base.opacity, false).marks);
  });
  const layers = input.layers.map((layer, place) => layerMarks(input, layer, layer.current, frames, place, 1, true));
  for (const layer of layers) marks.push(layer.marks);
  const scene: Scene = { width, height, plot, grid, marks, axisLines, texts };
  if (marks.every((part) => part.ids.length === 0)) scene.message = input.empty ?? "No rows pass";
  return { scene, ...(xScale ? { x: xScale } : {}), ...(yScale ? { y: yScale } : {}), categories, layers };
}

/** Category words on an upright axis, every n-th where they would overlap. */
function everyNth(scale: Scale) {
  const step = Math.max(1, Math.ceil(14 / scale.band));
  return scale.ticks.filter((_, i) => i % step === 0);
}
