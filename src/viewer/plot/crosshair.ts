import type { Drawn, Panel } from "../../core/chart/draw";
import { tooltipLines } from "../../core/chart/tooltip";
import type { SelectionPlan } from "../../core/link/selection";
import { nameAt } from "../../core/query/categories";
import { stretchAround } from "../../core/query/interval";
import { textWidth } from "../../core/scene/text-width";
import { paintOf } from "../../core/scene/theme";
import type { Crosshair } from "../app";
import { svgPart } from "../dom";
import { type Found, marksAtX, shapeOf } from "./find-mark";
import type { PlotView } from "./plot-view";

/** Where along x a mark stands, as a shared rule takes it; nothing where its chart has no such axis. */
export function ruleAt(view: PlotView, found: Found): Crosshair["value"] | undefined {
  const column = view.valuesOf(found)?.get("x");
  // A text has no place along a stretch, but one among names.
  const at = column && column.kind !== "text" ? (column.values[found.id] as number) : Number.NaN;
  return column && { at, name: nameAt(column, found.id) };
}

/** The charts in which some selections have a rule stand. */
export const ruled = (selections: readonly SelectionPlan[]): string[] =>
  selections.flatMap(({ effects }) =>
    effects.filter(({ effect }) => effect === "crosshair").map(({ target }) => target),
  );

/** The shared rule in each panel of a chart, with a dot on every series and the value read out. */
export function drawCrosshair(view: PlotView, drawn: Drawn, overlay: SVGSVGElement) {
  const { crosshair } = view.app;
  if (!crosshair?.targets.has(view.name)) return;
  for (const panel of drawn.panels) drawRule(view, drawn, panel, crosshair.value, overlay);
}

/** Where the rule stands, and how far from it marks of the same value may lie, in pixels. */
interface Place {
  x: number;
  reach: number;
}

/**
 * Marks stand at the value itself; bars and cells fill a bin, a period or the room of a category, in whose middle the
 * rule stands.
 */
function placeOf(drawn: Drawn, panel: Panel, { at: value, name }: Crosshair["value"]): Place | undefined {
  const { x: scale, bars, layers, categories } = panel;
  if (!scale) return undefined;
  if (categories.x) {
    const category = categories.x.findIndex((one) => one.name === name);
    return category < 0 ? undefined : { x: scale.place(category), reach: scale.band / 2 };
  }
  const at = { x: scale.place(value), reach: 1 };
  const edges = layers.flatMap(({ values }) => values.prepared.edges.get("x") ?? [])[0];
  if (!edges) return at;
  const [begin, end] = stretchAround(edges, value);
  if (!(value >= begin && value < end)) return at;
  const [from, to] = [scale.place(begin), scale.place(end)];
  const middle = (from + to) / 2;
  if (bars === "x") return { x: middle, reach: Math.abs(to - from) / 2 };
  return marksAtX(drawn, middle).some(({ x }) => Math.abs(x - middle) < 1) ? { x: middle, reach: 1 } : at;
}

function drawRule(view: PlotView, drawn: Drawn, panel: Panel, value: Crosshair["value"], overlay: SVGSVGElement) {
  const { plot } = panel;
  const { x, reach } = placeOf(drawn, panel, value) ?? { x: Number.NaN, reach: 0 };
  if (!(x >= plot.x - 1 && x <= plot.x + plot.width + 1)) return;
  overlay.append(svgPart("line", { x1: x, x2: x, y1: plot.y, y2: plot.y + plot.height, stroke: view.color("ink") }));
  const found = marksAtX(drawn, x).filter((one) => Math.abs(one.x - x) < reach);
  for (const one of found) {
    const shape = shapeOf(drawn, one);
    if (!shape || shape.outline(one.mark).tag === "rect") continue;
    overlay.append(
      svgPart("circle", {
        cx: one.x,
        cy: one.y,
        r: 3.5,
        fill: paintOf(shape.paintAt(one.mark), view.app.ground),
        stroke: view.color("sheet"),
        "stroke-width": 1,
      }),
    );
  }
  const first = found[0];
  if (!first) return;
  const caption = captionOf(view, first);
  const isPast = x > plot.x + plot.width / 2;
  const needed = textWidth(caption, 12) + 6;
  // At the side with more room, unless only the other one is left where the picture ends.
  const right = isPast || (plot.x + plot.width - x < needed && x > needed);
  const text = svgPart("text", {
    x: right ? x - 6 : x + 6,
    y: plot.y + 11,
    "font-size": 12,
    fill: view.color("ink"),
    "text-anchor": right ? "end" : "start",
    // Marks under the words leave them to be read.
    stroke: view.color("ground"),
    "stroke-width": 3,
    "stroke-linejoin": "round",
    "paint-order": "stroke",
  });
  text.textContent = caption;
  overlay.append(text);
}

function captionOf(view: PlotView, found: Found): string {
  const layer = view.plan.layers[found.layer];
  const values = view.valuesOf(found);
  return layer && values ? (tooltipLines({ ...layer, tooltip: ["x"] }, values, found.id)[0]?.text ?? "") : "";
}
