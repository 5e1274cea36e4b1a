import { MissingKind } from "../core/finding/kit";
import type { StillHarbor } from "./api";
import { type Dashboard, openDashboard } from "./dashboard";
import { load } from "./load";
import { canOpen, type FreshRows, OPENS } from "./open/kit";
import { isProof, PROOF } from "./proof/kit";

declare global {
  interface Window {
    stillHarbor: StillHarbor;
  }
}

/** The page's functions for scripts; before the dashboard runs they wait for it. */
function functionsOf(
  started: Promise<Dashboard>,
  current: () => Dashboard | undefined,
  fresh: () => FreshRows | undefined,
): StillHarbor {
  const late = async () => current()?.api ?? (await started).api;
  return {
    ready: started.then(() => undefined),
    rows: (piece) => current()?.api.rows(piece) ?? [],
    counts: () => current()?.api.counts() ?? {},
    state: () => current()?.api.state() ?? {},
    set: async (control, value) => (await late()).set(control, value),
    select: async (selection, what) => (await late()).select(selection, what),
    clear: async (name) => (await late()).clear(name),
    press: async (name) => (await late()).press(name),
    put: async (table, rows) => {
      await started;
      const own = fresh();
      if (!own) throw new RangeError("this dashboard takes no other rows: its sheet does not say style: {open: true}");
      own.put(table, rows);
    },
  };
}

/** Begins as soon as core and parts are there: the last thing that a dashboard's script does. */
export function wake() {
  let current: Dashboard | undefined;
  let fresh: FreshRows | undefined;
  const started = load().then((loaded) => {
    fresh = canOpen(loaded.plan) ? OPENS.get("open")(loaded) : undefined;
    current = openDashboard(fresh ? { ...loaded, chooseRows: fresh.choose } : loaded);
    fresh?.begin(current, (next) => (current = next));
    return current;
  });
  window.stillHarbor = functionsOf(
    started,
    () => current,
    () => fresh,
  );
  started.then(
    (dashboard) => {
      if (isProof()) PROOF.get("proof")(dashboard, (next) => (current = next));
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
