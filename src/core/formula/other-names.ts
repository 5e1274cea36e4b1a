/** What to write here for a function that goes by another name elsewhere. */
export interface OtherName {
  /** The name that it has here, where nothing else is different. */
  name?: string;
  /** What to write in its place. */
  says: string;
}

/** Names that functions have in SQL and in spreadsheets, by what they are called here. */
const NAMES: Record<string, readonly string[]> = {
  mean: ["avg", "average"],
  sum: ["total"],
  stdev: ["stddev", "stddev_samp"],
  variance: ["var", "var_samp"],
  distinct: ["count_distinct", "unique"],
  coalesce: ["ifnull"],
  missing: ["isnull", "is_null", "isblank", "is_missing"],
  known: ["notnull", "is_not_null", "isnotnull", "is_known"],
  length: ["len", "char_length"],
  part: ["substr", "substring", "mid"],
  starts: ["starts_with"],
  ends: ["ends_with"],
  glob: ["like", "matches"],
  replace: ["substitute"],
  text: ["string", "format"],
  number: ["int", "integer", "float", "to_number", "value"],
  date: ["to_date", "datevalue"],
  ceil: ["ceiling", "roundup"],
  previous: ["lag"],
  next: ["lead"],
  row: ["row_number"],
  running_total: ["running_sum", "cumulative_sum"],
  moving_mean: ["moving_average"],
  if: ["case"],
  corr: ["correl", "correlation"],
};

/** Names whose meaning is said otherwise here. */
const SAID: Record<string, readonly string[]> = {
  "sum(TEST) counts the rows where a test is true": ["countif", "count_if", "countifs"],
  "sum(if(TEST, x, 0)) adds up where a test is true": ["sumif", "sum_if", "sumifs"],
  "mean(if(TEST, x, missing)) is the mean where a test is true": ["avgif", "averageif", "mean_if"],
  "quantile(x, 0.9) takes a part of one": ["percentile", "percentile_cont"],
  "by_day(), by_month() and the like give the start of a period": ["date_trunc", "datetrunc"],
  "year(), month(), hour() and the like take a date apart": ["extract", "date_part", "datepart"],
  "one date less another is a length of time: days(left - arrived)": ["datediff", "date_diff"],
  'a length of time is added to a date: arrived + duration(3, "days"); months by add_months()': ["dateadd", "date_add"],
  'a file says the same on every day; write the day: date("2024-03-01")': ["today", "now", "current_date"],
  "x ^ 2 is a power": ["pow", "power", "sqr", "square"],
  "ln(x) is the natural logarithm, log10(x) that to base ten": ["log"],
  "part(x, 1, 3) takes the first three characters": ["left"],
  "part(x, length(x) - 2) takes the last three characters": ["right"],
  "a summary tells the most frequent value; or group by it, count, and sort": ["mode", "most_frequent"],
};

/** All of them, in small letters. */
export const OTHER_NAMES: ReadonlyMap<string, OtherName> = new Map([
  ...Object.entries(NAMES).flatMap(([name, others]) =>
    others.map((other) => [other, { name, says: `here it is ${name}()` }] as const),
  ),
  ...Object.entries(SAID).flatMap(([says, others]) => others.map((other) => [other, { says }] as const)),
]);

/** What a function is called here that an author knows by another name; nothing for one that nobody knows. */
export const otherName = (name: string): OtherName | undefined => OTHER_NAMES.get(name.toLowerCase());
