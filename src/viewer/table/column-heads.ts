import { isFigures } from "../../core/table/column";
import { decodePart } from "../address";
import { button, element } from "../dom";
import type { ShownColumn } from "./columns";
import { headOf } from "./take";

/** What a reader did to a column: where it stands among the others, and how wide it is, in pixels. */
export interface ColumnPlace {
  key: string;
  width?: number;
}

/** What heads ask their table to do. */
export interface HeadActs {
  sort(key: string): void;
  /** Puts a column before another, or at the end. */
  move(key: string, before: string | undefined): void;
  widen(key: string, width: number): void;
}

const LEAST_WIDTH = 32;

/** Neither narrower where there is no room, nor wider where the others leave some: the edge stays under the hand. */
function setWidth({ style }: HTMLElement, width: number) {
  style.width = `${width}px`;
  style.minWidth = `${width}px`;
}
/** A drag that is shorter is a press, in pixels. */
const STILL = 5;
const STEP = 12;

/** The heads of a data table: a press sorts, a drag or Alt and arrows move, the edge widens. */
export function columnHeads(
  columns: readonly ShownColumn[],
  sort: string | undefined,
  widths: ReadonlyMap<string, number>,
  acts: HeadActs,
): HTMLElement {
  const keys = columns.map(({ key }) => key);
  const heads = columns.map(({ key, channel, column }, at) => {
    const direction = sort === key ? "ascending" : sort === `-${key}` ? "descending" : "none";
    const arrow = { ascending: " ↑", descending: " ↓", none: "" }[direction];
    const side: Record<string, string> = isFigures(column) ? { class: "number" } : {};
    const words = headOf(channel);
    const press = button(`${words}${arrow}`, () => acts.sort(key), {
      "data-key": key,
      title: "press to sort; drag or Alt and arrows to move",
    });
    const head = element("th", { scope: "col", "aria-sort": direction, "aria-label": words, ...side }, press);
    const width = widths.get(key);
    if (width !== undefined) setWidth(head, width);
    press.addEventListener("keydown", (event) => {
      if (!event.altKey || (event.key !== "ArrowLeft" && event.key !== "ArrowRight")) return;
      event.preventDefault();
      const before = event.key === "ArrowLeft" ? keys[at - 1] : keys[at + 2];
      if (event.key === "ArrowLeft" ? at > 0 : at < keys.length - 1) acts.move(key, before);
    });
    draggable(press, head, key, acts);
    head.append(edge(head, key, words, acts));
    return head;
  });
  return element("thead", {}, element("tr", {}, ...heads));
}

/** Lets a head be dragged among the others; it is put before the one whose first half it is dropped on. */
function draggable(press: HTMLElement, head: HTMLElement, key: string, acts: HeadActs) {
  head.addEventListener("pointerdown", (down) => {
    if (down.button !== 0 || (down.target as HTMLElement).classList.contains("edge")) return;
    let moved = false;
    const move = (event: PointerEvent) => {
      moved ||= Math.abs(event.clientX - down.clientX) > STILL;
      head.classList.toggle("moving", moved);
    };
    const up = (event: PointerEvent) => {
      document.removeEventListener("pointermove", move);
      document.removeEventListener("pointerup", up);
      head.classList.remove("moving");
      if (!moved) return;
      // The press that ends a drag does not sort; it comes at once, if it comes.
      const swallow = (click: Event) => click.stopImmediatePropagation();
      press.addEventListener("click", swallow, { capture: true });
      setTimeout(() => press.removeEventListener("click", swallow, { capture: true }), 0);
      const heads = [...(head.parentElement?.querySelectorAll("th") ?? [])];
      const before = heads.find((other) => {
        const { left, width } = other.getBoundingClientRect();
        return event.clientX < left + width / 2;
      });
      const target = before?.querySelector("button")?.dataset.key;
      if (target !== key) acts.move(key, target);
    };
    document.addEventListener("pointermove", move);
    document.addEventListener("pointerup", up);
  });
}

/** The right edge of a head, which widens its column. */
function edge(head: HTMLElement, key: string, words: string, acts: HeadActs): HTMLElement {
  const handle = element("span", {
    class: "edge",
    role: "separator",
    tabindex: "0",
    "aria-orientation": "vertical",
    "aria-label": `Width of ${words}`,
  });
  const say = () => handle.setAttribute("aria-valuenow", String(Math.round(head.offsetWidth)));
  say();
  handle.addEventListener("focus", say);
  handle.addEventListener("keydown", (event) => {
    const step = { ArrowLeft: -STEP, ArrowRight: STEP }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    acts.widen(key, Math.max(LEAST_WIDTH, head.offsetWidth + step));
  });
  handle.addEventListener("pointerdown", (down) => {
    down.preventDefault();
    handle.setPointerCapture(down.pointerId);
    const start = head.offsetWidth;
    const widthAt = (event: PointerEvent) => Math.max(LEAST_WIDTH, Math.round(start + event.clientX - down.clientX));
    const move = (event: PointerEvent) => setWidth(head, widthAt(event));
    handle.addEventListener("pointermove", move);
    handle.addEventListener("pointerup", (event) => acts.widen(key, widthAt(event)), { once: true });
    handle.addEventListener("lostpointercapture", () => handle.removeEventListener("pointermove", move), {
      once: true,
    });
  });
  return handle;
}

/** `id:120,ship` as columns with their widths; names as the address has them. */
export function readColumns(text: string | undefined): ColumnPlace[] {
  return (text ?? "")
    .split(",")
    .filter(Boolean)
    .map((part) => {
      const [name = "", width] = part.split(":");
      const pixels = Number(width);
      return { key: decodePart(name) ?? "", ...(pixels >= LEAST_WIDTH ? { width: Math.min(pixels, 2000) } : {}) };
    });
}

export const writeColumns = (columns: readonly ColumnPlace[]): string =>
  columns.map(({ key, width }) => `${encodeURIComponent(key)}${width ? `:${Math.round(width)}` : ""}`).join(",");

/** Columns in the order that a reader gave them; those that were not there then stand at the end. */
export function inOrder<T extends { key: string }>(columns: readonly T[], order: readonly ColumnPlace[]): T[] {
  if (order.length === 0) return [...columns];
  const place = new Map(order.map(({ key }, at) => [key, at]));
  return [...columns].sort((a, b) => (place.get(a.key) ?? order.length) - (place.get(b.key) ?? order.length));
}
