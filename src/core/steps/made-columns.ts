import { type Made, madeBy } from "../formula/made";
import type { Formula } from "../formula/tree";
import type { ColumnInfo, Table } from "../table/table";

/** What the numbers or days of a column are, beside its words. */
const meaningOf = ({ single, period }: ColumnInfo = {}): Made => ({
  ...(single ? { single } : {}),
  ...(period ? { period } : {}),
});

/** What is said of columns, with what the formulas say that new ones are made by. What the author says stays. */
export function withMade(info: Table["info"], columns: readonly { name: string; formula: Formula }[]): Table["info"] {
  const made = columns.flatMap(({ name, formula }) => {
    const own = formula.type === "column" ? meaningOf(info.get(formula.name)) : madeBy(formula);
    const { single, period, ...said } = info.get(name) ?? {};
    // A column that is made anew under an old name is what its new formula says.
    return own || single || period ? [[name, { ...said, ...own }] as const] : [];
  });
  return made.length ? new Map([...info, ...made]) : info;
}
