import type { TableSpec } from "../sheet/schema-tables";

/** What a sheet says of a column. */
type Words = Exclude<NonNullable<TableSpec["columns"]>[string], string>;

type StepSpec = NonNullable<TableSpec["steps"]>[number];

/**
 * What sheets say of the columns of their tables, under the names that these have after steps, and of columns that a
 * look-up brought what is said of these. Each table is gone through once, however many are made of it.
 */
export class ColumnWords {
  private readonly known = new Map<string, ReadonlyMap<string, Words>>();

  constructor(readonly specs: ReadonlyMap<string, TableSpec>) {}

  /** After all steps of a table. */
  of(table: string): ReadonlyMap<string, Words> {
    let words = this.known.get(table);
    if (!words) {
      // A table that would be made of itself says nothing more.
      this.known.set(table, new Map());
      words = this.after(table);
      this.known.set(table, words);
    }
    return words;
  }

  /** After its first steps, all of them if unsaid. */
  after(table: string, steps?: number): ReadonlyMap<string, Words> {
    const spec = this.specs.get(table);
    if (!spec) return new Map();
    const words = new Map(spec.from === undefined ? [] : this.of(spec.from));
    for (const [name, said] of Object.entries(spec.columns ?? {}))
      if (typeof said === "object") words.set(name, { ...words.get(name), ...said });
    for (const step of (spec.steps ?? []).slice(0, steps)) if (step.off !== true) this.follow(words, step);
    return words;
  }

  private follow(words: Map<string, Words>, { rename, join }: StepSpec) {
    for (const [from, to] of Object.entries(rename ?? {})) {
      const said = words.get(from);
      if (said && !words.has(to)) words.set(to, said);
    }
    if (!join) return;
    const theirs = this.of(join.table);
    const pairs = Array.isArray(join.get) ? join.get.map((name) => [name, name] as const) : Object.entries(join.get);
    for (const [name, column] of pairs) {
      const said = theirs.get(column);
      if (said) words.set(name, { ...said, ...words.get(name) });
    }
  }
}
