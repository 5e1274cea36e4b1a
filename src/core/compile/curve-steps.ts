import type { Formula } from "../formula/tree";
import type { StepSpec } from "../sheet/schema-tables";
import type { Path } from "../sheet/tree";
import { KERNELS } from "../stat/kernel-density";
import type { NamedResult } from "../steps/step";
import type { Kind } from "../table/column";
import { formulaAt, keysBy, nameOf, type ReadyStep, type StepPlace, wrongStep } from "./step-place";

const MEASURED: readonly Kind[] = ["number", "duration", "date", "datetime"];

/** A formula with numbers in it, under its own name. */
function measured(place: StepPlace, path: Path, text: string): NamedResult | undefined {
  const checked = formulaAt(place, path, text, { named: true, aggregates: "none", rowFunctions: "none" });
  if (!checked) return undefined;
  if (!MEASURED.includes(checked.kind))
    return wrongStep(
      place,
      path,
      "wrong-kind",
      `a curve runs over numbers or times, and ${text} holds ${checked.kind}`,
    );
  return { name: nameOf(checked), formula: checked.formula };
}

function numberOr(place: StepPlace, path: Path, text: string | undefined, unsaid: number): Formula | undefined {
  return text === undefined
    ? { type: "number", value: unsaid }
    : formulaAt(place, path, text, { wanted: "number" })?.formula;
}

const byWords = (by: readonly NamedResult[]) => (by.length ? ` by ${by.map(({ name }) => name).join(", ")}` : "");

export function smoothStep(place: StepPlace, spec: NonNullable<StepSpec["smooth"]>): ReadyStep | undefined {
  const path = [...place.path, "smooth"];
  const x = measured(place, [...path, "x"], spec.x);
  const y = measured(place, [...path, "y"], spec.y);
  const span = numberOr(place, [...path, "span"], spec.span, 0.3);
  const by = keysBy(place, [...path, "by"], spec.by);
  if (!x || !y || !span || !by) return undefined;
  if (x.name === y.name)
    return wrongStep(
      place,
      [...path, "y"],
      "doubled-column",
      `x and y are both called ${x.name}; give one a name with as`,
    );
  return { step: { do: "smooth", x, y, span, by }, text: `smooth ${y.name} along ${x.name}${byWords(by)}` };
}

export function densityStep(place: StepPlace, spec: NonNullable<StepSpec["density"]>): ReadyStep | undefined {
  const path = [...place.path, "density"];
  const of = measured(place, [...path, "of"], spec.of);
  const adjust = numberOr(place, [...path, "adjust"], spec.adjust, 1);
  const by = keysBy(place, [...path, "by"], spec.by);
  const word = spec.kernel ?? "gaussian";
  if (!word.startsWith("$") && !(KERNELS as readonly string[]).includes(word))
    return wrongStep(place, [...path, "kernel"], "wrong-value", `"${word}" is not one of ${KERNELS.join(", ")}`);
  const kernel: Formula | undefined = word.startsWith("$")
    ? formulaAt(place, [...path, "kernel"], word, { wanted: "text" })?.formula
    : { type: "text", value: word };
  return (
    of &&
    adjust &&
    by &&
    kernel && { step: { do: "density", of, kernel, adjust, by }, text: `density of ${of.name}${byWords(by)}` }
  );
}

export function wordsStep(place: StepPlace, spec: NonNullable<StepSpec["words"]>): ReadyStep | undefined {
  const of = formulaAt(place, [...place.path, "words", "of"], spec.of, { wanted: "text", aggregates: "none" });
  return of && { step: { do: "words", of: of.formula, skip: spec.skip === "english" }, text: `words of ${spec.of}` };
}
