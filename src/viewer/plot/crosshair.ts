import type { Drawn, Panel } from "../../core/chart/draw";
import { tooltipLines } from "../../core/chart/tooltip";
import { paintOf } from "../../core/scene/theme";
import { svgPart } from "../dom";
import { type Found, marksAtX, shapeOf } from "./find-mark";
import type { PlotView } from "./plot-view";

/** The shared rule in each panel of a chart, with a dot on every series and the value read out. */
export function drawCrosshair(view: PlotView, drawn: Drawn, overlay: SVGSVGElement) {
  const { crosshair } = view.app;
  if (!crosshair?.targets.has(view.name)) return;
  for (const panel of drawn.panels) drawRule(view, drawn, panel, crosshair.value, overlay);
}

function drawRule(view: PlotView, drawn: Drawn, { plot, x: scale }: Panel, value: number, overlay: SVGSVGElement) {
  const x = scale?.place(value) ?? Number.NaN;
  if (!(x >= plot.x - 1 && x <= plot.x + plot.width + 1)) return;
  overlay.append(svgPart("line", { x1: x, x2: x, y1: plot.y, y2: plot.y + plot.height, stroke: view.color("ink") }));
  const found = marksAtX(drawn, x).filter((one) => Math.abs(one.x - x) < 1);
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
  const right = x > plot.x + plot.width / 2;
  const text = svgPart("text", {
    x: right ? x - 6 : x + 6,
    y: plot.y + 11,
    "font-size": 12,
    fill: view.color("ink"),
    "text-anchor": right ? "end" : "start",
  });
  text.textContent = captionOf(view, first);
  overlay.append(text);
}

function captionOf(view: PlotView, found: Found): string {
  const layer = view.plan.layers[found.layer];
  const values = view.valuesOf(found);
  return layer && values ? (tooltipLines({ ...layer, tooltip: ["x"] }, values, found.id)[0]?.text ?? "") : "";
}
