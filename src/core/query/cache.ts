import type { SettingValues } from "../steps/step";
import type { Scalar } from "../table/column";
import type { Table } from "../table/table";
import { type Answer, answerQuery } from "./answer";
import { type PrepareOptions, prepareQuery } from "./prepare";
import type { Query } from "./query";

/** What answers a question over all rows depends on, beside the table. */
export interface WholeQuestion {
  query: Query;
  options: PrepareOptions;
  setting: SettingValues;
  settings: ReadonlyMap<string, Scalar>;
}

/** Answers a query over all rows of a table. */
export type AnswerWhole = (question: WholeQuestion, table: Table) => Answer;

export const answerWhole: AnswerWhole = ({ query, options, setting }, table) =>
  answerQuery(prepareQuery(query, table, setting, options), null);

/** Questions that were not asked in so many builds are forgotten. */
const KEPT_BUILDS = 4;

/**
 * Answers of builds before: while an author writes, most charts ask the same of the same columns
 * again and again. Columns are immutable, so an answer holds as long as they do.
 */
export class AnswerCache {
  private readonly known = new WeakMap<Table["columns"], Map<string, { answer: Answer; build: number }>>();
  private build = 0;

  /** Begins another build. */
  next() {
    this.build += 1;
  }

  readonly answer: AnswerWhole = (question, table) => {
    const answers = this.known.get(table.columns) ?? new Map<string, { answer: Answer; build: number }>();
    this.known.set(table.columns, answers);
    const { query, options, settings } = question;
    const plain = {
      ...options,
      categoryAxes: [...(options.categoryAxes ?? [])],
      fixedEdges: [...(options.fixedEdges ?? [])],
    };
    const key = JSON.stringify([query, plain, [...settings], [...table.info]]);
    let found = answers.get(key);
    if (!found) {
      for (const [old, { build }] of answers) if (build < this.build - KEPT_BUILDS) answers.delete(old);
      found = { answer: answerWhole(question, table), build: this.build };
      answers.set(key, found);
    }
    found.build = this.build;
    return found.answer;
  };
}
