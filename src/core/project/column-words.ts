import type { TableSpec } from "../sheet/schema-tables";

export type TableSpecs = ReadonlyMap<string, TableSpec>;

/** What a sheet says of a column. */
type Words = Exclude<NonNullable<TableSpec["columns"]>[string], string>;

type StepSpec = NonNullable<TableSpec["steps"]>[number];

/** Tables that are made from one another are no longer a chain than this. */
const LONGEST = 100;

/**
 * What sheets say of the columns that a table has after its first steps, all of them if unsaid: under the names that
 * they have then, and of columns that a look-up brought what is said of these.
 */
export function columnWords(specs: TableSpecs, table: string, steps?: number, depth = 0): Map<string, Words> {
  const spec = specs.get(table);
  if (!spec || depth > LONGEST) return new Map();
  const above =
    spec.from === undefined ? new Map<string, Words>() : columnWords(specs, spec.from, undefined, depth + 1);
  for (const [name, said] of Object.entries(spec.columns ?? {}))
    if (typeof said === "object") above.set(name, { ...above.get(name), ...said });
  for (const step of (spec.steps ?? []).slice(0, steps)) if (step.off !== true) follow(above, step, specs, depth);
  return above;
}

function follow(words: Map<string, Words>, { rename, join }: StepSpec, specs: TableSpecs, depth: number) {
  for (const [from, to] of Object.entries(rename ?? {})) {
    const said = words.get(from);
    if (said && !words.has(to)) words.set(to, said);
  }
  if (!join) return;
  const theirs = columnWords(specs, join.table, undefined, depth + 1);
  const brought = Array.isArray(join.get) || typeof join.get === "string" ? [join.get].flat() : undefined;
  const pairs = brought ? brought.map((name) => [name, name] as const) : Object.entries(join.get);
  for (const [name, column] of pairs) {
    const said = theirs.get(String(column));
    if (said) words.set(name, { ...said, ...words.get(name) });
  }
}
