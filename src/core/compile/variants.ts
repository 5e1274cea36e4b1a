import type { ChartPlan } from "../chart/plan";
import type { PlanPiece, SettingPlan } from "../plan/plan";
import { choiceKey } from "../query/choices";
import type { Scalar } from "../table/column";
import { addFinding, type Compiling } from "./compiling";
import { readPiece } from "./piece";

/** What a sheet writes as the value that a setting holds. */
function heldValue(written: string, setting: SettingPlan | undefined): Scalar {
  if (setting?.kind === "number") return Number(written);
  return setting?.kind === "boolean" ? written === "true" : written;
}

/**
 * A chart whose looks are settings, planned under each of their values; the piece itself where it has none.
 * Nothing where it is found wrong under one of them.
 */
export function withVariants(compiling: Compiling, name: string, piece: PlanPiece | undefined): PlanPiece | undefined {
  const variants = compiling.sheet.variants.get(name);
  if (!piece || !variants) return piece;
  const { settings } = variants;
  for (const setting of settings) compiling.used.add(setting);
  if (piece.plan.type !== "chart") return wrong(compiling, name, piece.plan.type);
  const of: Record<string, ChartPlan> = {};
  for (const { values, spec } of variants.of) {
    const before = new Set(compiling.findings.map(findingKey));
    const from = compiling.findings.length;
    const plan = readPiece(compiling, name, spec)?.plan;
    // What is said of all of them is said once.
    const own = compiling.findings.splice(from).filter((finding) => !before.has(findingKey(finding)));
    compiling.findings.push(...own);
    if (!plan) return undefined;
    if (plan.type !== "chart") return wrong(compiling, name, plan.type);
    of[choiceKey(values.map((value, at) => heldValue(value, compiling.settings.get(settings[at] as string))))] = plan;
  }
  return { ...piece, plan: { ...piece.plan, variants: { settings, of } } };
}

const findingKey = ({ code, message, span }: Compiling["findings"][number]): string =>
  `${code} ${message} ${span?.start} ${span?.end}`;

function wrong(compiling: Compiling, name: string, type: string): undefined {
  addFinding(compiling, ["charts", name], "wrong-value", `a setting chooses among marks; a ${type} is none of them`, {
    piece: name,
  });
}
