import type { Drawn } from "../../core/chart/draw";
import type { PartName } from "../../core/chart/part-names";
import type { FoundMarks } from "../../core/finding/finding";
import { foundOn } from "../../core/model/found-marks";
import type { App } from "../app";
import type { Dashboard } from "../dashboard";
import { Exchange, type ProofColumns, type ProofUpdate } from "./exchange";
import { rowsLeft } from "./rows-left";

/**
 * What the workbench may ask of a proof, by messages: to take over a state or another plan, to show one
 * piece alone, to mark one, to say what it shows. It is told which piece the reader is at, and how many
 * rows each has left. Nothing of a table goes out.
 */
interface Ask {
  stillHarbor?: string;
  hash?: unknown;
  piece?: unknown;
  places?: unknown;
  on?: unknown;
  update?: ProofUpdate;
  columns?: ProofColumns;
  marks?: FoundMarks;
}

/** Milliseconds after which is told what need not be known at once. */
const AFTERWARDS = 150;

const tellWorkbench = (message: object) => window.parent.postMessage(message, "*");

const sectionOf = (piece: string) => document.querySelector<HTMLElement>(`section[data-piece="${CSS.escape(piece)}"]`);

export function listenToWorkbench(first: Dashboard, exchanged: (next: Dashboard) => void) {
  let telling: ReturnType<typeof setTimeout> | undefined;
  const follow = ({ app }: Dashboard) => {
    // Once all is drawn: pieces of other pages may not have been answered yet.
    const tellLeft = () => {
      clearTimeout(telling);
      telling = setTimeout(() => tellWorkbench({ stillHarbor: "left", left: rowsLeft(app) }), AFTERWARDS);
    };
    app.onSettled(tellLeft);
    tellLeft();
  };
  const exchange = new Exchange(first, (next) => {
    exchanged(next);
    tellTracks();
    follow(next);
    if (alone !== undefined) showAlone(next.app, alone);
    light(next.app, lit);
  });
  let alone: string | undefined;
  let lit: Lit | undefined;
  /** The workbench lays the page out, and is told where its tracks are whenever they move. */
  let tells = false;
  const tellTracks = () => {
    if (tells)
      requestAnimationFrame(() => tellWorkbench({ stillHarbor: "tracks", tracks: tracksOf(exchange.current.app) }));
  };
  window.addEventListener("resize", tellTracks);
  document.addEventListener("scroll", tellTracks, { capture: true, passive: true });
  const take = (data: Ask) => {
    const { app, keeper } = exchange.current;
    if (data.stillHarbor === "restore" && typeof data.hash === "string") keeper.read(`#${data.hash}`);
    else if (data.stillHarbor === "alone") {
      alone = typeof data.piece === "string" ? data.piece : undefined;
      showAlone(app, alone);
    } else if (data.stillHarbor === "light") {
      lit = typeof data.piece === "string" && data.marks ? { piece: data.piece, marks: data.marks } : undefined;
      light(app, lit);
    } else if (data.stillHarbor === "scroll" && typeof data.places === "object" && data.places !== null)
      scrollTo(data.places as Record<string, number>);
    else if (data.stillHarbor === "tracks") {
      tells = data.on === true;
      tellTracks();
    } else if (data.stillHarbor === "mark") mark(app, typeof data.piece === "string" ? data.piece : undefined);
    else if (data.stillHarbor === "known" && data.update) exchange.knows(data.update);
    else if (data.stillHarbor === "update" && data.update) tellWorkbench(exchange.take(data.update, data.columns));
    else if (data.stillHarbor === "digest") tellWorkbench({ stillHarbor: "digest", digest: exchange.digest() });
    else if (data.stillHarbor === "free") tellWorkbench({ stillHarbor: "free" });
  };
  window.addEventListener("message", (event) => {
    if (event.source === window.parent && event.data) take(event.data as Ask);
  });
  tellWorkbench({ stillHarbor: "ready" });
  follow(first);
  tellGestures();
  askParts((event) => (alone === undefined ? undefined : partAt(exchange.current.app, alone, event)));
}

/** Tells of what happens here that is for the page around it. */
function tellGestures() {
  const tell = (event: Event) => {
    const piece = (event.target as Element | null)?.closest?.<HTMLElement>("[data-piece],[data-control]");
    const name = piece?.dataset.piece ?? piece?.dataset.control;
    if (name) tellWorkbench({ stillHarbor: "piece", piece: name });
  };
  document.addEventListener("scroll", () => tellWorkbench({ stillHarbor: "scroll", places: places() }), {
    capture: true,
    passive: true,
  });
  document.addEventListener("keydown", (event) => {
    if (!isForFrame(event)) return;
    event.preventDefault();
    const { key, ctrlKey, metaKey, altKey, shiftKey } = event;
    tellWorkbench({ stillHarbor: "key", key, ctrlKey: ctrlKey || metaKey, altKey, shiftKey });
  });
  // A file that is carried over the proof is for the page around it, which is told that it comes, and no more.
  document.addEventListener("dragenter", (event) => {
    if (!event.dataTransfer?.types.includes("Files")) return;
    event.preventDefault();
    tellWorkbench({ stillHarbor: "drag" });
  });
  document.addEventListener("pointerdown", tell, true);
  document.addEventListener("focusin", tell);
  // Who drags or types here is not to find another document under the hand.
  const busy = (held: boolean) => () => tellWorkbench({ stillHarbor: "busy", held });
  document.addEventListener("pointerdown", busy(true), true);
  // A key for the page around may take the focus along, so that here it is never let go.
  document.addEventListener("keydown", (event) => isForFrame(event) || isHeldBeside(event) || busy(true)(), true);
  for (const end of ["pointerup", "pointercancel", "keyup"]) document.addEventListener(end, busy(false), true);
  window.addEventListener("blur", busy(false));
}

/**
 * Axes and titles take no gesture of a reader: pressed alone at large, they ask what they can be. So does anything
 * where the other button is pressed.
 */
function askParts(partOf: (event: MouseEvent) => ReturnType<typeof partAt>) {
  const ask = (event: MouseEvent, isOther: boolean) => {
    const part = partOf(event);
    if (part === undefined || (!isOther && part !== "title" && part !== "x" && part !== "y")) return;
    if (isOther) event.preventDefault();
    tellWorkbench({ stillHarbor: "part", part });
  };
  document.addEventListener("click", (event) => ask(event, false));
  document.addEventListener("contextmenu", (event) => ask(event, true));
}

interface Lit {
  piece: string;
  marks: FoundMarks;
}

/** Draws everything but some marks of a piece faintly, or all of it as it is. */
function light(app: App, lit: Lit | undefined) {
  const before = app.model.lit?.piece;
  if (!lit && before === undefined) return;
  app.model.lit = lit && { piece: lit.piece, picked: foundOn(lit.marks) };
  app.touch(...[before, lit?.piece].flatMap((piece) => piece ?? []));
}

/** The part of a chart that lies under the pointer. */
function partAt(app: App, piece: string, { target, clientX, clientY }: MouseEvent): PartName | undefined {
  const at = target as Element | null;
  const section = at?.closest("section[data-piece]");
  if (section !== sectionOf(piece)) return undefined;
  if (at?.closest("h2")) return "title";
  if (at?.closest(".legend")) return "color";
  const host = at?.closest(".plot");
  const view = app.views.get(piece) as { current?: () => Drawn | undefined } | undefined;
  const panels = view?.current?.()?.panels ?? [];
  if (!host || panels.length === 0) return undefined;
  const { left, top } = host.getBoundingClientRect();
  const ends = panels.map(({ plot }) => plot);
  if (clientY - top > Math.max(...ends.map(({ y, height }) => y + height))) return "x";
  return clientX - left < Math.min(...ends.map(({ x }) => x)) ? "y" : "marks";
}

/** How far the page and its lists are scrolled, the page under an empty name. */
function places(): Record<string, number> {
  const found: Record<string, number> = { "": window.scrollY };
  for (const rows of document.querySelectorAll<HTMLElement>(".rows")) {
    const piece = rows.closest<HTMLElement>("[data-piece]")?.dataset.piece;
    if (piece && rows.scrollTop > 0) found[piece] = rows.scrollTop;
  }
  return found;
}

/** Where the tracks of the page in sight are, in pixels of the window. */
export interface ProofTracks {
  page: number;
  left: number;
  top: number;
  columns: number[];
  rows: number[];
  gap: { x: number; y: number };
}

function tracksOf({ page }: App): ProofTracks | undefined {
  const grid = document.querySelector(`#page-${page} > .grid`);
  if (!grid) return undefined;
  const { gridTemplateColumns, gridTemplateRows, columnGap, rowGap } = getComputedStyle(grid);
  const { left, top } = grid.getBoundingClientRect();
  const pixels = (text: string) => text.split(" ").map(Number.parseFloat).filter(Number.isFinite);
  return {
    page,
    left,
    top,
    columns: pixels(gridTemplateColumns),
    rows: pixels(gridTemplateRows),
    gap: { x: Number.parseFloat(columnGap) || 0, y: Number.parseFloat(rowGap) || 0 },
  };
}

function scrollTo(wanted: Record<string, number>) {
  for (const [piece, top] of Object.entries(wanted)) {
    if (piece === "") window.scrollTo(0, top);
    else sectionOf(piece)?.querySelector(".rows")?.scrollTo(0, top);
  }
}

/** Keys that are held while others are pressed. */
const isHeldBeside = ({ key }: KeyboardEvent) => /^(?:Alt|Control|Meta|Shift)$/.test(key);

/** Keys that belong to the page around: a reader of the proof can go on working with them. */
function isForFrame({ key, ctrlKey, metaKey, altKey, target }: KeyboardEvent): boolean {
  const writes =
    (target as Element | null)?.closest("input:not([type=checkbox],[type=range],[type=radio]), textarea, select") !==
    null;
  if (altKey) return /^[1-5]$/.test(key);
  if (ctrlKey || metaKey) return /^[skezy]$/i.test(key) && !(writes && /^[zy]$/i.test(key));
  return key === "F8" || (key === "?" && !writes);
}

/** Shows the page of a piece, with nothing but the piece on it. */
function showAlone(app: App, piece: string | undefined) {
  document.documentElement.classList.toggle("alone", piece !== undefined);
  for (const one of document.querySelectorAll(".shown,.holds")) one.classList.remove("shown", "holds");
  app.showOnly(piece);
  if (piece === undefined) return;
  const section = sectionOf(piece);
  const page = section?.closest(".page");
  if (!section || !page) return;
  section.classList.add("shown");
  page.classList.add("holds");
  showPageOf(app, page);
  app.touch(piece);
}

function showPageOf(app: App, page: Element) {
  const place = /^page-(\d+)$/.exec(page.id)?.[1];
  if (place !== undefined) app.showPage(Number(place));
}

/** Marks a piece at its title and brings it into sight. */
function mark(app: App, piece: string | undefined) {
  for (const one of document.querySelectorAll(".marked")) one.classList.remove("marked");
  const section = piece === undefined ? undefined : sectionOf(piece);
  if (!section) return;
  section.classList.add("marked");
  const page = section.closest(".page");
  if (page?.hasAttribute("hidden")) showPageOf(app, page);
  section.scrollIntoView({ block: "nearest" });
}
