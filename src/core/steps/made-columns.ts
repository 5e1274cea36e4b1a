import { madeBy } from "../formula/made";
import type { Formula } from "../formula/tree";
import type { Table } from "../table/table";

/** What is said of columns, with what the formulas say that new ones are made by. What the author says comes first. */
export function withMade(info: Table["info"], columns: readonly { name: string; formula: Formula }[]): Table["info"] {
  const made = columns.flatMap(({ name, formula }) => {
    const own = madeBy(formula);
    return own ? [[name, { ...own, ...info.get(name) }] as const] : [];
  });
  return made.length ? new Map([...info, ...made]) : info;
}
