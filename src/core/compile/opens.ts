import type { OpensPlan, OpenTable } from "../plan/plan";
import { tablesOfStep } from "../steps/run";
import type { Step } from "../steps/step";
import { kindsOf, type Table } from "../table/table";
import { addFinding, type BuiltTable, type Compiling } from "./compiling";
import { readingOf } from "./sources";

/** Tables whose rows came of a file or the sheet, where readers may put others in their place. */
export function openTables({ sheet, tables }: Compiling): Set<string> {
  if (sheet.style.open !== true) return new Set();
  const hasRows = ({ spec }: BuiltTable) => spec.read !== undefined || spec.rows !== undefined;
  return new Set([...tables.values()].filter(hasRows).map(({ name }) => name));
}

/** Those tables, and all whose rows are made of theirs. */
export function followingOpen({ tables }: Compiling, open: ReadonlySet<string>): Set<string> {
  const following = new Set(open);
  // A table is built after those that it is made of.
  for (const { name, from, steps } of tables.values())
    if ([...(from === undefined ? [] : [from]), ...steps.flatMap(tablesOfStep)].some((above) => following.has(above)))
      following.add(name);
  return following;
}

/** Says what of the sheet cannot follow rows that a reader puts in. */
export function checkOpen(compiling: Compiling) {
  const { sheet } = compiling;
  if (sheet.style.open !== true) return;
  if (openTables(compiling).size === 0)
    addFinding(
      compiling,
      ["style", "open"],
      "opens-nothing",
      "no table here has rows that others could take the place of",
      {
        severity: "warning",
      },
    );
  const refuse = (path: (string | number)[], message: string) => addFinding(compiling, path, "cannot-open", message);
  if (sheet.editions)
    refuse(["style", "open"], "open: and editions: do not go together: other rows would not be of the edition's value");
  for (const [name, { from }] of sheet.tables)
    if (from?.startsWith("$"))
      refuse(
        ["tables", name, "from"],
        `with style: {open: true} a table cannot be chosen by a setting: ${name} would not follow other rows`,
      );
}

/** How each of those tables that is used takes other rows; `needs` are the columns of each as it was read. */
export function opensPlan(
  compiling: Compiling,
  needs: ReadonlyMap<string, { columns: Iterable<string>; steps: Step[] }>,
): OpensPlan {
  const tables: Record<string, OpenTable> = {};
  const said: OpensPlan["said"] = {};
  for (const [name, { columns, steps }] of needs) {
    const built = compiling.tables.get(name) as BuiltTable;
    const source = compiling.sourceTables.get(name) as Table;
    const { read } = built.spec;
    const kinds = kindsOf(source);
    const wanted = new Set(columns);
    tables[name] = {
      ...(read === undefined ? {} : { file: read.split("/").at(-1) as string }),
      columns: Object.fromEntries(
        [...kinds].flatMap(([column, type]) =>
          wanted.has(column) ? [[column, { ...built.wishes.get(column), type }]] : [],
        ),
      ),
      reading: readingOf(built.spec),
      orders: Object.fromEntries(
        [...source.info].flatMap(([column, { order }]) => (order && kinds.has(column) ? [[column, order]] : [])),
      ),
      steps,
    };
  }
  for (const { name, table } of compiling.tables.values())
    for (const [column, { colors }] of table.info) if (colors) said[`${name}.${column}`] = colors;
  const { palette } = compiling.sheet.style;
  return { tables, said, ...(palette === undefined ? {} : { house: palette }) };
}
