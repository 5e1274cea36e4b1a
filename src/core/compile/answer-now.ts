import type { ChartPlan } from "../chart/plan";
import { layerOptions, sortQueries } from "../chart/questions";
import { firstNow, withTop } from "../chart/top";
import type { Answer } from "../query/answer";
import type { PrepareOptions } from "../query/prepare";
import type { Query } from "../query/query";
import { type Compiling, settingValue } from "./compiling";

/** The answer to a question with nothing selected and settings as they begin. */
export function answerNow({ cache, tables, settings }: Compiling, query: Query, options: PrepareOptions): Answer {
  const values = new Map([...settings].map(([name, { start }]) => [name, start]));
  const setting = (name: string) => values.get(name) ?? null;
  const built = tables.get(query.from);
  if (!built) throw new Error(`no table ${query.from}`);
  return cache.answers.answer({ query, options, setting, settings: values }, built.table);
}

/** A chart of its first categories as they are, and no longer of those that come first. */
export function withFirst(compiling: Compiling, plan: ChartPlan): ChartPlan {
  const [layer] = plan.layers;
  if (!plan.top || !layer) return plan;
  const { axis } = plan.top;
  const sorted = sortQueries(plan)[axis];
  const answer = sorted ? answerNow(compiling, sorted, {}) : answerNow(compiling, layer.query, layerOptions(plan));
  const first = firstNow(plan, plan.top, settingValue(compiling), { answer, all: answer });
  const { top: _, ...chosen } = withTop(plan, axis, plan.top, first);
  return chosen;
}
