import { colorRamp, rampPart } from "../../core/chart/color-ramp";
import { MISSING_TEXT } from "../../core/formula/format";
import { nameAt } from "../../core/query/categories";
import { writeAt } from "../../core/query/write";
import { luminanceOf } from "../../core/scene/contrast";
import { rampColor } from "../../core/scene/theme";
import { isFigures } from "../../core/table/column";
import type { App } from "../app";
import { element } from "../dom";
import type { ShownColumn } from "./columns";

const LONGEST_CELL = 200;
/** Pictures that stand in the cell itself. */
const PICTURE = /^data:image\/(?:png|jpeg|gif|webp|avif|svg\+xml)[;,]/;

/** The luminance from which black words are read better than white ones; on it both stand out by 4.58 to 1. */
const HALFWAY = 0.179;

/** Black or white words, whichever can be read on a colour. */
const inkOn = (color: string): string => (luminanceOf(color) > HALFWAY ? "#000000" : "#ffffff");

/** How far a value lies between the ends of its column, 0 to 1. */
const partOf = (value: number, [low, high]: [number, number]) => (high > low ? (value - low) / (high - low) : 0);

/** Where the picture of a cell is: in the cell, in the file, or, where the author allows it, elsewhere. */
function addressOf({ pictures, plan }: App, text: string): string | undefined {
  if (PICTURE.test(text)) return text;
  if (Object.hasOwn(pictures, text)) return pictures[text];
  return plan.style.pictures === "outside" && /^https?:\/\//.test(text) ? text : undefined;
}

/** A cell of a data table: its text, a picture, a bar behind its number, or the shade of its value. */
export function cellOf(shown: ShownColumn, id: number, app: App): HTMLElement {
  const { ground } = app;
  const { channel, column, cell, extent } = shown;
  const isText = column.kind === "text";
  // A list of rows is quieter with a dash than with the word that legends and axes have.
  const text = isText && nameAt(column, id) === null ? MISSING_TEXT : writeAt(channel, column, id);
  const made = element(
    "td",
    isFigures(column) ? { class: "number" } : {},
    text.length > LONGEST_CELL ? `${text.slice(0, LONGEST_CELL)}…` : text,
  );
  const address = channel.image ? addressOf(app, text) : undefined;
  if (address !== undefined) {
    const picture = element("img", { alt: "", loading: "lazy", referrerpolicy: "no-referrer" });
    picture.src = address;
    made.replaceChildren(picture);
  } else if (text.length > 20) made.title = text.slice(0, 2000);
  const value = isText ? Number.NaN : (column.values[id] as number);
  if (!cell || !extent || value !== value) return made;
  if (cell.bar) {
    const [low, high] = [Math.min(0, extent[0]), Math.max(0, extent[1])];
    const bar = element("span", { class: "bar", "aria-hidden": "true" });
    const [from, to] = [partOf(Math.min(0, value), [low, high]), partOf(Math.max(0, value), [low, high])];
    bar.style.left = `${from * 100}%`;
    bar.style.width = `${(to - from) * 100}%`;
    made.classList.add("barred");
    made.replaceChildren(bar, element("span", {}, text));
  }
  if (cell.shade) {
    const ramp = colorRamp({ colors: cell.shade, middle: cell.middle }, ...extent);
    const color = rampColor(cell.shade, rampPart(ramp, value), ground);
    made.style.backgroundColor = color;
    made.style.color = inkOn(color);
  }
  return made;
}
