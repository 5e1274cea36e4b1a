import { writeFix } from "../../finding/finding";
import type { ControlSpec } from "../../sheet/schema-controls";
import { addFinding, type BuiltTable, type Compiling } from "../compiling";
import { unknownTable } from "../unknown-table";

/** A control on its way into the plan. */
export interface ControlDraft {
  compiling: Compiling;
  name: string;
  spec: ControlSpec;
  label: string;
}

/** Adds a finding of the control, at one of its keys or at its name; answers nothing. */
export function wrongControl(
  { compiling, name }: ControlDraft,
  key: string | undefined,
  code: string,
  message: string,
  replacement?: string,
): undefined {
  const path = ["controls", name, ...(key === undefined ? [] : [key])];
  const span = replacement === undefined ? undefined : compiling.sheet.source.valueSpan(path);
  addFinding(compiling, path, code, message, {
    piece: name,
    ...writeFix(span, replacement),
  });
  return undefined;
}

/** The table whose rows a control picks; nothing where it is not named, unknown or broken. */
export function tableOf(draft: ControlDraft): BuiltTable | undefined {
  const { compiling, name, spec } = draft;
  if (spec.from === undefined)
    return wrongControl(draft, undefined, "key-missing", "a pick needs from: and the name of its table");
  const built = compiling.tables.get(spec.from);
  if (built) compiling.used.add(`tables.${spec.from}`);
  else if (!compiling.sheet.tables.has(spec.from) && !compiling.sheet.broken.has(`tables.${spec.from}`))
    unknownTable(compiling, ["controls", name, "from"], spec.from, name);
  return built;
}

export const SLIDER_STEPS = 100;

/** A round step, of which about a hundred lie between two ends. */
export function niceStep(low: number, high: number): number {
  const rough = (high - low) / SLIDER_STEPS;
  return rough >= 1 ? Math.max(1, Math.round(rough)) : 10 ** Math.floor(Math.log10(rough));
}
