import type { Step } from "../../steps/step";
import { ancestry } from "../compiling";
import type { Linking } from "./linking";

/**
 * Columns by whose values every row of a table is told from all others where the table can be made anew, by what is
 * selected in tables above it or by a setting: those by which its last merging step has put rows together. None for
 * a table that stays as it is, whose rows keep their numbers, and for one whose rows are several for such values.
 */
export function rowKeys({ compiling, pieces, controls }: Linking, table: string): string[] {
  const [own, ...above] = ancestry(compiling, table);
  const tables = [own, ...above].flatMap((name) => compiling.tables.get(name ?? "") ?? []);
  const followsSetting = tables.some(({ usesSettings }) => usesSettings);
  const sources = [...[...pieces.values()].map(({ plan }) => plan), ...controls];
  const isBelowSource = sources.some((source) => "from" in source && above.includes(source.from));
  if (!followsSetting && !isBelowSource) return [];
  // Steps of a table that is read run again for a setting alone.
  return tables
    .reverse()
    .filter(({ from }) => from !== undefined || followsSetting)
    .flatMap(({ steps }) => steps)
    .reduce<string[]>(keysAfter, []);
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
