/** Names of functions that make one value of many rows. */
export const AGGREGATES: ReadonlySet<string> = new Set([
  "count",
  "distinct",
  "sum",
  "mean",
  "median",
  "quantile",
  "min",
  "max",
  "stdev",
  "variance",
  "first",
  "last",
  "corr",
  "slope",
  "share",
]);
