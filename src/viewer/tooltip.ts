import type { TooltipLine } from "../core/chart/tooltip";
import { button, element } from "./dom";

/** A line of a tooltip; with the colour of its series where several stand in one. */
export type ShownLine = TooltipLine & { color?: string };

const LONGEST = 300;
/** Pixels between the pointer and the tooltip, and between it and the window's edge. */
const AWAY = 14;
const EDGE = 4;

function rowOf({ label, text, unit, color }: ShownLine): HTMLElement {
  if (label === "") return element("tr", {}, element("td", { colspan: "2" }, text));
  const name = element("td", {}, label);
  // A stroke of the series' colour; words in it would be too faint to read on some grounds.
  if (color) {
    name.classList.add("keyed");
    name.style.borderLeftColor = color;
  }
  const shown = text.length > LONGEST ? `${text.slice(0, LONGEST)}…` : text;
  return element("tr", {}, name, element("td", { class: "value" }, unit ? `${shown} ${unit}` : shown));
}

/** The lines that several blocks share, then those of each that are its own, where any has one. */
export function partedLines(
  blocks: readonly (readonly ShownLine[])[],
): [shared: readonly ShownLine[], ...own: (readonly ShownLine[])[]] {
  const [first = [], ...rest] = blocks;
  const has = (lines: readonly ShownLine[], { label, text }: ShownLine) =>
    lines.some((line) => line.label === label && line.text === text);
  const shared = first.filter((line) => rest.every((lines) => has(lines, line)));
  const own = rest.length ? blocks.map((lines) => lines.filter((line) => !has(shared, line))) : [];
  return [shared, ...(own.some((lines) => lines.length) ? own : [])];
}

/** The one tooltip of the page: a small table of label, value and unit; those that are kept stay where they are. */
export class Tooltip {
  private readonly box = element("div", { class: "tip", role: "presentation", hidden: "" });
  private kept: HTMLElement[] = [];

  constructor() {
    document.body.append(this.box);
  }

  /** Shows what is said of one mark, and of others at the same place; `more` of them are only counted. */
  show(blocks: readonly (readonly ShownLine[])[], caption: string, clientX: number, clientY: number, more = 0) {
    if (blocks.every((lines) => lines.length === 0) && caption === "") return this.hide();
    const table = element("table");
    if (caption) table.append(element("caption", {}, caption));
    const [shared, ...own] = partedLines(blocks);
    for (const lines of [shared, ...own]) if (lines.length) table.append(element("tbody", {}, ...lines.map(rowOf)));
    const others = own.length ? more : more + Math.max(0, blocks.length - 1);
    if (others > 0) table.append(element("tbody", {}, rowOf({ label: "", text: `and ${others} more here` })));
    this.box.replaceChildren(table);
    this.box.hidden = false;
    const { width, height } = this.box.getBoundingClientRect();
    const left = clientX + AWAY + width > window.innerWidth ? clientX - AWAY - width : clientX + AWAY;
    const top = clientY + AWAY + height > window.innerHeight ? clientY - AWAY - height : clientY + AWAY;
    this.box.style.left = `${Math.max(EDGE, left)}px`;
    this.box.style.top = `${Math.max(EDGE, top)}px`;
  }

  hide() {
    this.box.hidden = true;
  }

  /** Keeps what is shown, to be compared with others; false where nothing is. */
  keep(): boolean {
    if (this.box.hidden) return false;
    const copy = element("div", { class: "tip kept", role: "note" });
    const words = [...this.box.childNodes].map((node) => node.cloneNode(true));
    copy.append(
      ...words,
      button("×", () => this.drop(copy), { "aria-label": "drop this tooltip" }),
    );
    copy.style.left = this.box.style.left;
    copy.style.top = this.box.style.top;
    document.body.append(copy);
    this.kept.push(copy);
    this.hide();
    return true;
  }

  /** Drops the tooltip that was kept last; false where none is. */
  dropKept(): boolean {
    const last = this.kept.at(-1);
    if (last) this.drop(last);
    return last !== undefined;
  }

  private drop(copy: HTMLElement) {
    copy.remove();
    this.kept = this.kept.filter((one) => one !== copy);
  }

  remove() {
    this.box.remove();
    for (const copy of this.kept) copy.remove();
  }
}
