import type { Column } from "../table/column";
import type { Table } from "../table/table";
import type { Step, StepResult } from "./step";

/** Keeps columns in the order asked for; serves `only` and `drop`. */
export function only(step: Step & { do: "only" }, table: Table): StepResult {
  const columns = new Map(step.columns.map((name) => [name, table.columns.get(name) as Column]));
  return { table: { ...table, columns }, losses: [], origin: { type: "same" } };
}

/** Gives columns new names in their old places; what is said of a column goes along. */
export function rename(step: Step & { do: "rename" }, table: Table): StepResult {
  const names = new Map(step.names);
  const columns = new Map([...table.columns].map(([name, column]) => [names.get(name) ?? name, column]));
  const info = new Map(table.info);
  for (const [from, to] of step.names) {
    const said = table.info.get(from);
    // What the sheet says of the new name itself wins.
    if (said && !info.has(to)) info.set(to, said);
  }
  return { table: { ...table, columns, info }, losses: [], origin: { type: "same" } };
}
