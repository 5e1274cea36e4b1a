import type { Step } from "../../steps/step";
import { ancestry, type Compiling } from "../compiling";

/**
 * Columns by whose values every row of a table is told from all others, whatever is selected: those by which its
 * last merging step has put rows together. None for a table whose rows are read, or are several for such values.
 */
export function rowKeys(compiling: Compiling, table: string): string[] {
  const steps = ancestry(compiling, table)
    .reverse()
    .flatMap((name) => compiling.tables.get(name)?.steps ?? []);
  return steps.reduce<string[]>(keysAfter, []);
}

function keysAfter(keys: string[], step: Step): string[] {
  const unless = (changed: readonly string[]) => (changed.some((name) => keys.includes(name)) ? [] : keys);
  switch (step.do) {
    case "group":
      return step.by.map(({ name }) => name);
    case "unique":
      return step.columns;
    case "pivot":
      return step.by;
    case "words":
      return ["word"];
    case "smooth":
    case "density":
    case "unpivot":
    case "stack":
      return [];
    case "rename":
      return keys.map((key) => step.names.find(([from]) => from === key)?.[1] ?? key);
    case "only":
      return keys.every((key) => step.columns.includes(key)) ? keys : [];
    case "add":
      return unless(step.columns.map(({ name }) => name));
    case "fill":
      return unless(step.values.map(({ name }) => name));
    case "fill_forward":
      return unless(step.columns);
    case "join":
      return unless(step.get.map(([name]) => name));
    default:
      return keys;
  }
}
