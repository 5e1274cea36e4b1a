import type { BarMarks, LineMarks, Marks, PointMarks, Scene } from "./scene";
import { type Ground, paintOf } from "./theme";

/** Text as the content of an element. */
export function escapeText(text: string): string {
  return text.replace(/[&<>]/g, (character) => (character === "&" ? "&amp;" : character === "<" ? "&lt;" : "&gt;"));
}

/** Text as the value of an attribute in double quotes. */
export function escapeAttribute(text: string): string {
  return text.replace(
    /[&<>"']/g,
    (character) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;", "'": "&#39;" })[character] as string,
  );
}

/** A length with at most two decimals. */
const px = (value: number) => String(Math.round(value * 100) / 100);

/** Only what can be a colour reaches an attribute. */
function color(paint: string, ground: Ground): string {
  const found = paintOf(paint, ground);
  return /^#[0-9a-fA-F]{3,8}$/.test(found) ? found : paintOf("ink", ground);
}

const FAINT = 0.28;
const faded = (marks: Marks, mark: number) => (marks.picked && !marks.picked[mark] ? ` opacity="${FAINT}"` : "");

function bars(marks: BarMarks, ground: Ground): string {
  let out = "";
  for (let i = 0; i < marks.ids.length; i++) {
    const fill = color(marks.paints[marks.color[i] as number] as string, ground);
    out += `<path d="M${px(marks.x[i] as number)} ${px(marks.y[i] as number)}h${px(marks.width[i] as number)}v${px(marks.height[i] as number)}h${px(-(marks.width[i] as number))}z" fill="${fill}"${faded(marks, i)}/>`;
  }
  return out;
}

function points(marks: PointMarks, ground: Ground): string {
  let out = "";
  for (let i = 0; i < marks.ids.length; i++) {
    const fill = color(marks.paints[marks.color[i] as number] as string, ground);
    out += `<circle cx="${px(marks.x[i] as number)}" cy="${px(marks.y[i] as number)}" r="${px(marks.radius)}" fill="${fill}"${faded(marks, i)}/>`;
  }
  return out;
}

function lines(marks: LineMarks, ground: Ground): string {
  let out = "";
  for (let line = 0; line + 1 < marks.starts.length; line++) {
    let path = "";
    let drawing = false;
    for (let i = marks.starts[line] as number; i < (marks.starts[line + 1] as number); i++) {
      const [x, y] = [marks.x[i] as number, marks.y[i] as number];
      if (x !== x || y !== y) drawing = false;
      else {
        path += `${drawing ? "L" : "M"}${px(x)} ${px(y)}`;
        drawing = true;
      }
    }
    const stroke = color(marks.paints[marks.lineColor[line] as number] as string, ground);
    if (path)
      out += `<path d="${path}" fill="none" stroke="${stroke}" stroke-width="${px(marks.width)}" stroke-linejoin="round" stroke-linecap="round"/>`;
  }
  return out;
}

function marksSvg(marks: Marks, ground: Ground): string {
  const inside =
    marks.shape === "bars"
      ? bars(marks, ground)
      : marks.shape === "points"
        ? points(marks, ground)
        : lines(marks, ground);
  return `<g${marks.opacity < 1 ? ` opacity="${px(marks.opacity)}"` : ""}>${inside}</g>`;
}

const lineSvg = (part: Scene["grid"][number], ground: Ground) =>
  `<path d="M${px(part.x1)} ${px(part.y1)}L${px(part.x2)} ${px(part.y2)}" stroke="${color(part.paint, ground)}" fill="none"/>`;

/** What lies under the marks. */
export function backSvg(scene: Scene, ground: Ground): string {
  return scene.grid.map((part) => lineSvg(part, ground)).join("");
}

/** What lies over the marks: axes and words. */
export function frontSvg(scene: Scene, ground: Ground): string {
  const { plot } = scene;
  const texts = scene.texts
    .map(
      (part) =>
        `<text x="${px(part.x)}" y="${px(part.y)}" font-size="${part.size}" fill="${color(part.paint, ground)}"${part.anchor && part.anchor !== "start" ? ` text-anchor="${part.anchor}"` : ""}${part.bold ? ' font-weight="600"' : ""}>${escapeText(part.text)}</text>`,
    )
    .join("");
  const message = scene.message
    ? `<text x="${px(plot.x + plot.width / 2)}" y="${px(plot.y + plot.height / 2)}" font-size="13" fill="${color("quiet", ground)}" text-anchor="middle">${escapeText(scene.message)}</text>`
    : "";
  return scene.axisLines.map((part) => lineSvg(part, ground)).join("") + texts + message;
}

/**
 * A scene as an SVG element. It uses presentation attributes only, which a hash-only policy lets
 * through; words are escaped, colours are checked.
 */
export function sceneSvg(scene: Scene, label: string, ground: Ground): string {
  const marks = scene.marks.map((part) => marksSvg(part, ground)).join("");
  return `<svg viewBox="0 0 ${px(scene.width)} ${px(scene.height)}" preserveAspectRatio="xMinYMin meet" role="img" aria-label="${escapeAttribute(label)}">${backSvg(scene, ground)}${marks}${frontSvg(scene, ground)}</svg>`;
}
