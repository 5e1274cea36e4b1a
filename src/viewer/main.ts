import { MissingKind } from "../core/finding/kit";
import { makeApi, type StillHarbor } from "./api";
import { App } from "./app";

import type { ControlView } from "./controls/control-view";
import { makeControl } from "./controls/make";
import { button, element } from "./dom";
import { load } from "./load";
import { PIECES } from "./pieces";
import { listenToPrinting } from "./print";
import { isProof, PROOF } from "./proof-kit";
import { Sentence } from "./sentence";
import { spareBox, spareSection } from "./spare";
import { StateKeeper } from "./state";

declare global {
  interface Window {
    stillHarbor: StillHarbor;
  }
}

/** Wakes the page: takes over the first picture, piece by piece. */
async function start(): Promise<Omit<StillHarbor, "ready">> {
  const { plan, tables, seal } = await load();
  const app = new App(plan, tables);
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
  }
  const sentence = document.querySelector<HTMLElement>(".sentence");
  if (sentence) app.add(new Sentence(app, sentence));
  const keeper = new StateKeeper(app, controls, seal);
  for (const tab of document.querySelectorAll<HTMLButtonElement>("[data-page]")) {
    tab.addEventListener("click", () => {
      app.showPage(Number(tab.dataset.page));
      app.settle();
    });
  }
  for (const side of document.querySelectorAll(".side")) foldable(side);
  listenToPrinting(app);
  document.addEventListener("keydown", (event) => {
    if (event.key === "Escape") app.dropLast();
  });
  if (isProof()) PROOF.get("proof")(app, keeper);
  keeper.read();
  app.flush();
  return makeApi(app, controls, keeper);
}

function foldable(side: Element) {
  const page = side.parentElement as HTMLElement;
  const fold = button(
    "fold away",
    () => {
      const folded = page.classList.toggle("folded");
      fold.textContent = folded ? "controls" : "fold away";
      fold.setAttribute("aria-expanded", String(!folded));
    },
    { class: "plain fold", "aria-expanded": "true" },
  );
  side.append(fold);
}

/** Begins as soon as core and parts are there: the last thing that a dashboard's script does. */
export function wake() {
  const started = start();
  const late = async () => started;
  window.stillHarbor = {
    ready: started.then(() => undefined),
    rows: () => [],
    counts: () => ({}),
    state: () => ({}),
    set: async (control, value) => (await late()).set(control, value),
    select: async (selection, what) => (await late()).select(selection, what),
    clear: async (name) => (await late()).clear(name),
    press: async (name) => (await late()).press(name),
  };
  started.then(
    (api) => {
      Object.assign(window.stillHarbor, api);
      if (isProof()) window.parent.postMessage({ stillHarbor: "ready" }, "*");
    },
    (problem: unknown) => {
      // The first picture still stands; the reader is told why it does not answer.
      const sentence = document.querySelector(".sentence");
      const why = problem instanceof MissingKind ? problem.message : "This browser cannot run the dashboard";
      if (sentence) sentence.textContent = `${why}; what you see is its first picture.`;
      console.error(problem);
    },
  );
}
