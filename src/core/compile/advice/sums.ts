import { leadingLayer } from "../../chart/leading";
import { type Formula, walk } from "../../formula/tree";
import { writeName } from "../../formula/words";
import { namesThings } from "../../table/column-names";
import { type Advice, type ChartView, replaceFix } from "./chart-view";

/** Names of what is a part, a rate or a mean already. */
const NOT_ADDED =
  /(?:^|_| )(?:rate|share|percent|percentage|pct|ratio|mean|average|avg|median|price|temperature|speed)(?:$|_| )/i;
/** What a formula puts through one of these functions. */
function callsIn(formula: Formula, functions: readonly string[]): (Formula | undefined)[] {
  const found: (Formula | undefined)[] = [];
  walk(formula, (node) => {
    if (node.type === "call" && functions.includes(node.name)) found.push(node.arguments[0]);
  });
  return found;
}

/** Columns of numbers that a formula puts through one of these functions. */
const columnsIn = (formula: Formula, functions: readonly string[]): string[] =>
  callsIn(formula, functions).flatMap((inner) => (inner?.type === "column" ? [inner.name] : []));

/** The first measure of a chart that puts a column of such a name through one of these functions. */
function measured(
  { plan }: ChartView,
  functions: readonly string[],
  isSuch: (name: string) => boolean,
  isPercent = false,
) {
  for (const { query } of plan.layers)
    for (const [key, channel] of Object.entries(query.channels)) {
      const columns = channel.aggregate ? columnsIn(channel.formula, functions) : [];
      // A share has percents of its own, whatever it is a share of.
      const inPercent = isPercent && channel.format?.endsWith("%") && !callsIn(channel.formula, ["share"]).length;
      const column = columns.find((own) => isSuch(own) || inPercent);
      if (column !== undefined) return { key, channel, column };
    }
  return undefined;
}

/** Parts and rates that are added up give a number of nothing. */
export const sumOfMeans: Advice = {
  code: "sum-of-rates",
  find(view) {
    const found = measured(view, ["sum", "running_total"], (name) => NOT_ADDED.test(name), true);
    if (!found) return undefined;
    const { key, channel, column } = found;
    const whole = `sum(${writeName(column)})`;
    return {
      at: [key],
      message: `${column} reads like a rate or a mean; added up over rows it says nothing: its mean says more`,
      fix: channel.text === whole ? replaceFix(view, [key], `mean(${writeName(column)})`) : undefined,
    };
  },
};

/** Means that are stacked on one another add up to nothing. */
export const stackOfMeans: Advice = {
  code: "stack-of-means",
  find(view) {
    const { plan, spec } = view;
    if (spec.stacking !== "sum" && spec.stacking !== "percent" && spec.stacking !== "stream") return undefined;
    const measure = leadingLayer(plan).query.channels[plan.along === "x" ? "y" : "x"];
    if (!measure?.aggregate || columnsIn(measure.formula, ["mean", "median", "min", "max", "quantile"]).length === 0)
      return undefined;
    return {
      at: ["stacking"],
      message: `${measure.label} is stacked, but means do not add up; beside one another they can be compared`,
      fix: replaceFix(view, ["stacking"], "beside"),
    };
  },
};

/** Numbers that name things have neither sum nor mean. */
export const numbersOfThings: Advice = {
  code: "measured-names",
  find(view) {
    const found = measured(view, ["sum", "mean", "median", "stdev"], namesThings);
    if (!found) return undefined;
    const { key, channel, column } = found;
    const isPlain = /^\w+\([^()]+\)$/.test(channel.text);
    return {
      at: [key],
      message:
        `${column} reads like a name of things, which has neither sum nor mean; how many ` +
        `there are is count(), how many different distinct(${writeName(column)})`,
      fix: isPlain ? replaceFix(view, [key], `distinct(${writeName(column)})`) : undefined,
    };
  },
};
