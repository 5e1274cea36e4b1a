import { nearest } from "../../finding/nearest";
import type { ButtonPlan } from "../../plan/plan";
import { addFinding } from "../compiling";
import { type ControlDraft, wrongControl } from "./draft";

/** What the names under `to` of each deed are. */
const TARGETS = { apply: "controls", reset: "controls", redraw: "tables", export: "charts" } as const;

/** Checks a button; nothing where it could do nothing. */
export function readButton(draft: ControlDraft): ButtonPlan | undefined {
  const { compiling, name, spec } = draft;
  const { does } = spec;
  if (does === undefined)
    return wrongControl(draft, undefined, "key-missing", "a button needs does: apply, reset, redraw or export");
  const known = compiling.sheet[TARGETS[does]];
  const to = spec.to ?? (does === "reset" ? [] : undefined);
  if (to === undefined)
    return wrongControl(draft, undefined, "key-missing", `a button that does ${does} needs to: [${TARGETS[does]}]`);
  let sound = true;
  to.forEach((target, at) => {
    if (known.has(target)) {
      if (does === "redraw") compiling.used.add(`tables.${target}`);
      return;
    }
    sound = false;
    // What was refused is there, and its own finding says what is wrong.
    if (compiling.sheet.broken.has(does === "redraw" ? `tables.${target}` : target)) return;
    const near = nearest(target, known.keys());
    const what = TARGETS[does].slice(0, -1);
    const hint = near ? `; did you mean ${near}?` : "";
    addFinding(compiling, ["controls", name, "to", at], "unknown-name", `there is no ${what} "${target}"${hint}`, {
      piece: name,
    });
  });
  return sound ? { type: "button", name, label: spec.button as string, does, to } : undefined;
}
