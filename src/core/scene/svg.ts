import { escapeAttribute, escapeText } from "./escape";
import type { Box, Scene } from "./scene";
import { colorAttribute as color, px, type Shape } from "./shapes/shape";
import type { Ground } from "./theme";

/** The shapes of a plot, in the order in which they are drawn. */
function shapeSvg(shape: Shape, ground: Ground): string {
  return `<g${shape.opacity < 1 ? ` opacity="${px(shape.opacity)}"` : ""}>${shape.svg(ground)}</g>`;
}

const lineSvg = (part: Scene["grid"][number], ground: Ground) =>
  `<path d="M${px(part.x1)} ${px(part.y1)}L${px(part.x2)} ${px(part.y2)}" stroke="${color(part.paint, ground)}" fill="none"/>`;

/** What lies under the marks. */
export function backSvg(scene: Scene, ground: Ground): string {
  const under = scene.under
    .map(
      ({ path, fill, stroke }) =>
        `<path d="${path}" fill="${fill ? color(fill, ground) : "none"}" stroke="${color(stroke, ground)}" stroke-width="0.8"/>`,
    )
    .join("");
  return under + scene.grid.map((part) => lineSvg(part, ground)).join("");
}

/** The box around all plots. */
export function aroundAll({ panels }: Scene): Box {
  const x = Math.min(...panels.map(({ plot }) => plot.x));
  const y = Math.min(...panels.map(({ plot }) => plot.y));
  return {
    x,
    y,
    width: Math.max(...panels.map(({ plot }) => plot.x + plot.width)) - x,
    height: Math.max(...panels.map(({ plot }) => plot.y + plot.height)) - y,
  };
}

/** What lies over the marks: axes and words. */
export function frontSvg(scene: Scene, ground: Ground): string {
  const plot = aroundAll(scene);
  const texts = scene.texts
    .map(
      (part) =>
        `<text x="${px(part.x)}" y="${px(part.y)}" font-size="${part.size}" fill="${color(part.paint, ground)}"${part.anchor && part.anchor !== "start" ? ` text-anchor="${part.anchor}"` : ""}${part.bold ? ' font-weight="600"' : ""}${part.slanted ? ` transform="rotate(-45 ${px(part.x)} ${px(part.y)})"` : ""}>${escapeText(part.text)}</text>`,
    )
    .join("");
  const message = scene.message
    ? `<text x="${px(plot.x + plot.width / 2)}" y="${px(plot.y + plot.height / 2)}" font-size="13" fill="${color("quiet", ground)}" text-anchor="middle">${escapeText(scene.message)}</text>`
    : "";
  return scene.axisLines.map((part) => lineSvg(part, ground)).join("") + texts + message;
}

/** Marks cut off at the edge of their plot: an inner picture shows nothing outside of itself. */
function cutTo({ x, y, width, height }: Box, edge: number, marks: string): string {
  const box = [x - edge, y - edge, width + 2 * edge, height + 2 * edge].map(px);
  return `<svg x="${box[0]}" y="${box[1]}" width="${box[2]}" height="${box[3]}" viewBox="${box.join(" ")}">${marks}</svg>`;
}

/**
 * A scene as an SVG element. It uses presentation attributes only, which a hash-only policy lets
 * through; words are escaped, colours are checked.
 */
export function sceneSvg(scene: Scene, label: string, ground: Ground): string {
  const marks = scene.panels
    .flatMap(({ plot, shapes }) =>
      shapes.map((shape) => {
        const inner = shapeSvg(shape, ground);
        return scene.clipped ? cutTo(plot, shape.edge, inner) : inner;
      }),
    )
    .join("");
  return `<svg viewBox="0 0 ${px(scene.width)} ${px(scene.height)}" preserveAspectRatio="xMinYMin meet" role="img" aria-label="${escapeAttribute(label)}">${backSvg(scene, ground)}${marks}${frontSvg(scene, ground)}</svg>`;
}

/** Words among the marks, which are text wherever they are drawn. */
export function wordsSvg({ panels }: Scene, ground: Ground): string {
  return panels
    .flatMap(({ shapes }) => shapes.filter((shape) => shape.isText).map((shape) => shapeSvg(shape, ground)))
    .join("");
}
