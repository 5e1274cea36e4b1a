import { type Formula, mapFormula, walk } from "../formula/tree";
import { type Choices, choiceKey } from "../query/choices";
import type { Scalar } from "../table/column";
import type { Compiling } from "./compiling";

/** Most ways in which the settings of one formula can stand together. */
const MOST = 400;

/** Settings by whose value columns or aggregates of a formula are chosen. */
function settingsChoosing(formula: Formula): string[] {
  const found = new Set<string>();
  walk(formula, (node) => {
    if (node.type !== "call" || (node.name !== "chosen" && node.name !== "agg")) return;
    const [setting] = node.arguments;
    if (setting?.type === "setting") found.add(setting.name);
  });
  return [...found];
}

/** A formula in which what is chosen stands in the place of the choice. */
function substituted(formula: Formula, values: ReadonlyMap<string, Scalar>): Formula {
  return mapFormula(formula, (node) => {
    if (node.type !== "call" || (node.name !== "chosen" && node.name !== "agg")) return undefined;
    const [setting, ...options] = node.arguments as [Formula, ...Formula[]];
    const wanted = setting.type === "setting" ? values.get(setting.name) : undefined;
    const found = options.find(
      (option) => (option.type === "column" || option.type === "call") && option.name === wanted,
    );
    return found && substituted(found, values);
  });
}

/** Every way in which some settings can stand together; nothing where one of them is open, or they are too many. */
function combinations({ settings }: Compiling, names: readonly string[]): Scalar[][] | undefined {
  let all: Scalar[][] = [[]];
  for (const name of names) {
    const of = settings.get(name)?.of;
    if (!of || all.length * of.length > MOST) return undefined;
    all = all.flatMap((one) => of.map((value) => [...one, value]));
  }
  return all;
}

/** What `make` gives for a formula under each value of the settings by which a reader chooses in it. */
export function choicesOf<T>(
  compiling: Compiling,
  formula: Formula,
  make: (formula: Formula) => T | undefined,
): Choices<T> | undefined {
  const settings = settingsChoosing(formula);
  const all = settings.length ? combinations(compiling, settings) : undefined;
  if (!all) return undefined;
  const of: Record<string, T> = {};
  for (const values of all) {
    const made = make(substituted(formula, new Map(settings.map((name, at) => [name, values[at] as Scalar]))));
    if (made !== undefined) of[choiceKey(values)] = made;
  }
  return { settings, of };
}
