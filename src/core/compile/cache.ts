import { settingsOf } from "../formula/tree";
import { type Ties, tiesAfter } from "../link/lineage";
import { AnswerCache } from "../query/cache";
import type { ReadResult } from "../read/texts";
import { formulasOfStep, runStep, tablesOfStep } from "../steps/run";
import type { SettingValues, Step, StepContext, StepResult } from "../steps/step";
import type { Table } from "../table/table";

/**
 * What reading and steps gave the last time. While an author writes, most of the sheet stays as it
 * was: tables whose bytes and steps are the same are not made again.
 */
export class CompileCache {
  private readonly files = new WeakMap<Uint8Array, Map<string, ReadResult>>();
  /** What charts were answered. */
  readonly answers = new AnswerCache();
  private readonly choices = new WeakMap<Table["columns"], Map<string, Table["columns"]>>();
  private readonly numbers = new WeakMap<Table["columns"] | Uint8Array, number>();
  private lastNumber = 0;
  private readonly tiesAfter = new WeakMap<StepResult, { before: Ties; after: Ties }>();
  private readonly steps = new WeakMap<Table["columns"], Map<string, StepResult>>();

  /** The result of reading these very bytes in this way. */
  read(bytes: Uint8Array, how: string, make: () => ReadResult): ReadResult {
    const known = this.files.get(bytes) ?? new Map<string, ReadResult>();
    this.files.set(bytes, known);
    let result = known.get(how);
    if (!result) {
      result = make();
      // Only the latest few ways of reading a file are worth their memory.
      if (known.size >= 3) known.delete(known.keys().next().value as string);
      known.set(how, result);
    }
    return result;
  }

  /** The table with only these columns; the same choice of the same columns is the same object. */
  choose(table: Table, names: ReadonlySet<string>): Table {
    const known = this.choices.get(table.columns) ?? new Map<string, Table["columns"]>();
    this.choices.set(table.columns, known);
    const kept = [...table.columns].filter(([name]) => names.has(name));
    const key = JSON.stringify(kept.map(([name]) => name));
    let columns = known.get(key);
    if (!columns) {
      columns = new Map(kept);
      if (known.size >= 8) known.delete(known.keys().next().value as string);
      known.set(key, columns);
    }
    return { ...table, columns };
  }

  /** The ties after a step; the same step and ties give the same object. */
  ties(result: StepResult, before: Ties): Ties {
    const known = this.tiesAfter.get(result);
    if (known && (known.before === before || (known.before.size === 0 && before.size === 0))) return known.after;
    const after = tiesAfter(before, result);
    this.tiesAfter.set(result, { before, after });
    return after;
  }

  /** The result of this step over these very columns. */
  step(step: Step, table: Table, context: StepContext): StepResult {
    const known = this.steps.get(table.columns) ?? new Map<string, StepResult>();
    this.steps.set(table.columns, known);
    const key = JSON.stringify(
      [
        step,
        [...table.info],
        settingsIn(step, context.setting),
        tablesOfStep(step).map((name) => this.numberOf(context.table(name).columns)),
      ],
      (name, value) => (name === "at" ? undefined : value),
    );
    let result = known.get(key);
    if (!result) {
      result = runStep(step, table, context);
      if (known.size >= 3) known.delete(known.keys().next().value as string);
      known.set(key, result);
    }
    return result;
  }

  /** The same number for the same columns, or bytes. */
  numberOf(of: Table["columns"] | Uint8Array): number {
    const number = this.numbers.get(of) ?? ++this.lastNumber;
    this.numbers.set(of, number);
    return number;
  }
}

/** Values of the settings that a step reads. */
function settingsIn(step: Step, setting: SettingValues): unknown[] {
  return formulasOfStep(step).flatMap((formula) => [...settingsOf(formula)].flatMap((name) => [name, setting(name)]));
}
