import { setNumberMarks } from "../core/formula/number-format";
import type { Plan } from "../core/plan/plan";
import type { AnswerWhole } from "../core/query/cache";
import type { Table } from "../core/table/table";
import { type Api, makeApi } from "./api";
import { App } from "./app";
import type { ControlView } from "./controls/control-view";
import { makeControl } from "./controls/make";
import { element } from "./dom";
import { pageMenu } from "./page-menu";
import { PIECES } from "./pieces";
import { listenToPrinting } from "./print";
import { Sentence } from "./sentence";
import { Side } from "./side";
import { spareBox, spareSection } from "./spare";
import { StateKeeper } from "./state";
import { TABS } from "./tabs";

/** What a dashboard is made of, beside its page. */
export interface Loaded {
  plan: Plan;
  tables: ReadonlyMap<string, Table>;
  /** Tells these tables from those of other builds. */
  seal: string;
  /** Pictures in tables by the text of their cells, as `data:` addresses. */
  pictures: Readonly<Record<string, string>>;
  /** What stands in place of the report's own rows, in words, and the way back to them. */
  fresh?: { says: string; back: () => void };
  /** Lets the reader choose a file of other rows, where the author lets readers do so. */
  chooseRows?: () => void;
}

/** A dashboard that runs on the page as it stands, and can be taken off it whole. */
export interface Dashboard {
  app: App;
  keeper: StateKeeper;
  api: Api;
  /** Ends all that it listens to and takes away what it has put beside the page. */
  dispose(): void;
}

/** Wakes the page: takes over the first picture, piece by piece. */
export function openDashboard(
  { plan, tables, seal, pictures, fresh, chooseRows }: Loaded,
  whole?: AnswerWhole,
): Dashboard {
  setNumberMarks(plan.style.numbers);
  const app = new App(plan, tables, pictures, whole);
  const controls = new Map<string, ControlView>();
  const spare = spareBox();
  for (const control of plan.controls) {
    const host = document.querySelector<HTMLElement>(`[data-control="${CSS.escape(control.name)}"]`);
    const view = makeControl(app, control, host ?? element("div"));
    controls.set(control.name, view);
    app.add(view);
  }
  for (const piece of plan.pieces) {
    const section =
      document.querySelector<HTMLElement>(`[data-piece="${CSS.escape(piece.name)}"]`) ?? spareSection(spare, piece);
    app.add(PIECES.get(piece.plan.type)(app, piece, section));
    if (piece.live) app.alongside(piece.name, () => writeWords(app, piece.name, section));
  }
  const sentence = document.querySelector<HTMLElement>(".sentence");
  if (sentence) app.add(new Sentence(app, sentence, fresh));
  const keeper = new StateKeeper(app, controls, seal);
  for (const tab of document.querySelectorAll<HTMLButtonElement>("[data-page]")) {
    tab.addEventListener("click", () => {
      app.showPage(Number(tab.dataset.page));
      app.settle();
    });
  }
  const areas = [...document.querySelectorAll<HTMLElement>(".shared.tabs")];
  app.takeUp(
    new Side(app),
    areas.map((area) => new (TABS.get())(app, area)),
  );
  listenToPrinting(app);
  app.listen(document, "keydown", (event) => {
    if (event.key === "Escape" && !app.tooltip.dropKept()) app.dropLast();
    const writes = (event.target as HTMLElement).matches?.("input,select,textarea,[contenteditable]");
    if (event.key === "p" && !writes && !event.ctrlKey && !event.metaKey && !event.altKey) app.tooltip.keep();
  });
  pageMenu(app, keeper, chooseRows);
  keeper.read();
  app.flush();
  return {
    app,
    keeper,
    api: makeApi(app, controls, keeper),
    dispose() {
      app.end();
      spare.remove();
    },
  };
}

/** Classes of the words around a piece, by their keys. */
const WORD_PLACES = { title: "h2", subtitle: ".sub", hint: ".hint", credit: ".credit" } as const;

/** What is called after its piece is heard by the new name. */
function renameParts(section: HTMLElement, before: string, now: string) {
  if (before === "") return;
  for (const part of section.querySelectorAll("[aria-label]"))
    part.setAttribute(
      "aria-label",
      (part.getAttribute("aria-label") ?? "").replace(before, () => now),
    );
}

/** Writes the words around a piece in which values stand. */
function writeWords(app: App, name: string, section: HTMLElement) {
  const words = app.model.words(name);
  for (const [key, selector] of Object.entries(WORD_PLACES)) {
    const place = section.querySelector(selector);
    const text = words[key];
    if (!place || text === undefined || place.textContent === text) continue;
    if (key === "title") renameParts(section, place.textContent ?? "", text);
    place.textContent = text;
  }
}
