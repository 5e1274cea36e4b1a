import { type DrawnLayer, drawLayer } from "../mark/layer";
import type { Stage } from "../mark/mark";
import type { Answer } from "../query/answer";
import type { Box, Scene } from "../scene/scene";
import type { Shape } from "../scene/shapes/shape";
import type { AxisInk } from "./axis-lines";
import type { ChartInput } from "./inputs";
import { MAPS } from "./maps";
import { nameOver, type PanelStage } from "./panel-stage";
import { inPanel, type PanelGrid, type PanelPlace, panelGrid } from "./panels";
import { planeStages } from "./plane";

/** A small chart, or the only one: its plot with the axes in use, and its layers in full ink. */
export interface Panel extends Stage {
  names: PanelPlace["names"];
  layers: DrawnLayer[];
}

/** A chart drawn: the scene, and what is needed to ask it questions. */
export interface Drawn {
  scene: Scene;
  panels: Panel[];
  /** What its upright axis needs at the left, in pixels; nothing for charts without one. */
  left?: number;
}

/** Draws a chart into a box of the given size. Pure: the same input gives the same scene everywhere. */
export function drawChart(input: ChartInput): Drawn {
  const { width, height, plan } = input;
  const grid = panelGrid(input);
  const ink: AxisInk = { grid: [], axisLines: [], texts: [] };
  const stages = plan.stage === "plane" ? planeStages(input, grid, ink) : cellStages(input, grid, ink);
  const panels = stages.map((panel, at) => {
    const under = plan.stage === "map" ? MAPS.get()(input, panel.stage, ink) : [];
    return { ...panel.stage, names: panel.names, under, ...layersOf(input, panel, grid, at) };
  });
  const { left, ...lines } = ink;
  const scene: Scene = {
    width,
    height,
    panels: panels.map(({ plot, base, layers }) => ({
      plot,
      shapes: [...base, ...layers.flatMap(({ beside = [], shapes, over = [] }) => [...beside, ...shapes, ...over])],
    })),
    ...(isCut(input) ? { clipped: true as const } : {}),
    under: panels.flatMap(({ under }) => under),
    ...lines,
  };
  if (scene.panels.every(({ shapes }) => shapes.every(({ ids }) => ids.length === 0)))
    scene.message = input.empty ?? (isUnknown(input) ? NOTHING_KNOWN : "No rows pass");
  return { scene, panels, ...(left === undefined ? {} : { left }) };
}

/** Stands where there are rows, and of none of them what a mark needs is known. */
export const NOTHING_KNOWN = "No known values";

/** True where no choice of rows would draw anything, and no rule of the chart's own leaves them out. */
const isUnknown = ({ layers }: ChartInput): boolean =>
  layers.some(({ all: { prepared } }) => prepared.table.rowCount > 0 && !prepared.query.keep) &&
  layers.every(({ all }) => all.counts.every((count) => count === 0));

/** True where marks may lie outside of the plot. */
const isCut = ({ plan, zoom, view }: ChartInput): boolean =>
  view !== undefined ||
  Object.keys(zoom ?? {}).length > 0 ||
  Object.values(plan.axes).some(({ range }) => Array.isArray(range));

const GAP = 16;
const HEAD = 18;

/** Cells of one size for charts without axes: the whole place, or one for each panel. */
function cellStages(input: ChartInput, grid: PanelGrid, ink: AxisInk): PanelStage[] {
  const { width, height } = input;
  const isNamed = grid.places.some(({ names }) => Object.keys(names).length > 0);
  const head = isNamed ? HEAD : 0;
  const cell = {
    width: Math.max(10, (width - GAP * (grid.columns - 1)) / grid.columns),
    height: Math.max(10, (height - GAP * (grid.rows - 1)) / grid.rows - head),
  };
  return grid.places.map(({ row, column, names }): PanelStage => {
    const plot: Box = {
      x: column * (cell.width + GAP),
      y: row * (cell.height + head + GAP) + head,
      ...cell,
    };
    if (isNamed) nameOver(ink, plot, input, names);
    return { stage: { plot, categories: {} }, others: new Map(), names };
  });
}

/** The layers of a panel: faintly below what selections fade, then what is in full ink. */
function layersOf(input: ChartInput, { stage, others }: PanelStage, grid: PanelGrid, at: number) {
  const within = (answer: Answer, ids: Int32Array) => inPanel(grid, at, answer, ids);
  const stageOf = (place: number) => others.get(place) ?? stage;
  const base: Shape[] = input.layers.flatMap((layer, place) => {
    if (!layer.base) return [];
    const { answer, opacity } = layer.base;
    const drawn = drawLayer({ input, layer, place, answer, stage: stageOf(place), opacity, within });
    return [...(drawn.beside ?? []), ...drawn.shapes, ...(drawn.over ?? [])];
  });
  const layers = input.layers.map((layer, place) =>
    drawLayer({
      input,
      layer,
      place,
      answer: layer.current,
      stage: stageOf(place),
      opacity: 1,
      isTop: true,
      within,
    }),
  );
  return { base, layers };
}
