import { CHOSEN_OF } from "../steps/chosen";
import { runStep } from "../steps/run";
import type { Step } from "../steps/step";
import { textColumn } from "../table/column";
import type { Table } from "../table/table";
import { addFinding, type Compiling, followsSettings, stepContext } from "./compiling";
import { stackProblem } from "./shape-steps";

/** A table with its own name beside every row. */
const withName = (table: Table, name: string): Table => ({
  ...table,
  columns: new Map([
    ...table.columns,
    [CHOSEN_OF, textColumn(new Array<string>(table.rowCount).fill(name), table.rowCount)],
  ]),
});

/** Keeps the rows of the table that a setting names. */
const keepChosen = (setting: string): Step => ({
  do: "keep",
  test: {
    type: "binary",
    operator: "=",
    left: { type: "column", name: CHOSEN_OF },
    right: { type: "setting", name: setting },
  },
  within: [],
  order: [],
});

/**
 * `from: $dataset`: a table that a reader chooses. All that it may be stand one under the other, with
 * the table of each row beside it; the setting then keeps the rows of one, in the dashboard too.
 */
export function chosenTable(
  compiling: Compiling,
  name: string,
  setting: string,
  tableOf: (name: string) => Table | undefined,
): { whole: Table; table: Table; steps: Step[] } | undefined {
  const path = ["tables", name, "from"];
  const wrong = (code: string, message: string) => {
    addFinding(compiling, path, code, message, { piece: `tables.${name}` });
    return undefined;
  };
  const plan = compiling.settings.get(setting);
  if (!plan) return wrong("unknown-setting", `there is no setting "${setting}" among the controls`);
  if (!plan.of)
    return wrong("closed-list", `a table is chosen by a setting with a closed list: of: [this_year, last_year]`);
  compiling.used.add(setting);
  const tables: [string, Table][] = [];
  for (const option of plan.of) {
    const table = tableOf(option);
    if (!table) return undefined;
    tables.push([option, table]);
  }
  const following = plan.of.find((option) => followsSettings(compiling, option));
  if (following !== undefined)
    return wrong(
      "chosen-follows",
      `${following} follows a setting and cannot be one of those that ` +
        `$${setting} chooses; write its steps with settings in ${name}`,
    );
  const [first, ...others] = tables as [[string, Table], ...[string, Table][]];
  for (const [option, table] of others) {
    const problem = stackProblem(first[1], table, option, first[0]);
    if (problem !== undefined) return wrong("columns-differ", problem);
  }
  const marked = new Map(tables.map(([option, table]) => [option, withName(table, option)]));
  const context = { ...stepContext(compiling), table: (wanted: string) => marked.get(wanted) as Table };
  const stack: Step = { do: "stack", tables: others.map(([option]) => option) };
  const whole = runStep(stack, marked.get(first[0]) as Table, context).table;
  const steps: Step[] = [keepChosen(setting), { do: "only", columns: [...first[1].columns.keys()] }];
  const table = steps.reduce((now, step) => runStep(step, now, stepContext(compiling)).table, whole);
  return { whole, table, steps };
}
