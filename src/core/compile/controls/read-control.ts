import type { ControlPlan } from "../../plan/plan";
import type { ControlSpec } from "../../sheet/schema-controls";
import { spaced } from "../channels";
import type { Compiling } from "../compiling";
import { readAny, readSearch } from "./ask";
import { readButton } from "./button";
import { type ControlDraft, wrongControl } from "./draft";
import { readPick } from "./pick";
import { readSetting } from "./settings";

const SORTS = ["pick", "search", "set", "button"] as const;

/** Checks a control; nothing where it cannot be shown. */
export function readControl(compiling: Compiling, name: string, spec: ControlSpec): ControlPlan | undefined {
  const draft: ControlDraft = { compiling, name, spec, label: spec.label ?? spaced(name) };
  const sorts = SORTS.filter((key) => spec[key] !== undefined);
  if (sorts.length !== 1)
    return wrongControl(
      draft,
      undefined,
      "control-kind",
      "a control needs one of pick: (to choose rows), search:, set: (to set a value) or button:",
    );
  const control = read(draft, sorts[0] as (typeof SORTS)[number]);
  const waitsFor = buttonBefore(compiling, name);
  return control && waitsFor !== undefined ? { ...control, waitsFor } : control;
}

function read(draft: ControlDraft, sort: (typeof SORTS)[number]): ControlPlan | undefined {
  const { spec } = draft;
  if (sort === "set") return readSetting(draft);
  if (sort === "search") return readSearch(draft);
  if (sort === "button") return readButton(draft);
  return spec.pick === "any" ? readAny(draft) : readPick(draft);
}

/** The button that must be pressed before a control counts. */
function buttonBefore(compiling: Compiling, name: string): string | undefined {
  for (const [button, { does, to }] of compiling.sheet.controls)
    if (does === "apply" && to?.includes(name)) return button;
  return undefined;
}
