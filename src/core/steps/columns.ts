import type { Column } from "../table/column";
import type { StepKind } from "./step";

/** Keeps columns in the order asked for; serves `only` and `drop`. */
export const only: StepKind<"only"> = {
  run(step, table) {
    const columns = new Map(step.columns.map((name) => [name, table.columns.get(name) as Column]));
    return { table: { ...table, columns }, losses: [], origin: { type: "same" } };
  },
  formulas: () => [],
  needs: (_, wanted) => wanted,
  gives: ({ columns }) => columns,
  narrowed: (step, available) => ({ ...step, columns: step.columns.filter((name) => available.has(name)) }),
};

/** Gives columns new names in their old places; what is said of a column goes along. */
export const rename: StepKind<"rename"> = {
  run(step, table) {
    const names = new Map(step.names);
    const columns = new Map([...table.columns].map(([name, column]) => [names.get(name) ?? name, column]));
    const info = new Map(table.info);
    for (const [from, to] of step.names) {
      const said = table.info.get(from);
      // What the sheet says of the new name itself wins.
      if (said && !info.has(to)) info.set(to, said);
    }
    return { table: { ...table, columns, info }, losses: [], origin: { type: "same" } };
  },
  formulas: () => [],
  needs(step, wanted) {
    const old = new Map(step.names.map(([from, to]) => [to, from]));
    return [...wanted].map((name) => old.get(name) ?? name);
  },
  gives(step, columns) {
    const names = new Map(step.names);
    return [...columns].map((name) => names.get(name) ?? name);
  },
  narrowed: (step, available) => ({ ...step, names: step.names.filter(([from]) => available.has(from)) }),
};
