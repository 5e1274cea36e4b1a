import type { Kind } from "../table/column";

/** What a parameter takes: kinds, any kind, or the kind of an earlier parameter. */
export interface Parameter {
  name: string;
  takes: readonly Kind[] | "any" | "same";
  optional?: boolean;
  /** Stands for any number of further arguments. */
  repeats?: boolean;
  /** Must not change from row to row. */
  constant?: boolean;
  /** The words it may be, for constant texts. */
  words?: readonly string[];
}

export type Family =
  | "numbers"
  | "text"
  | "kinds"
  | "calendar"
  | "bins"
  | "rows in order"
  | "place"
  | "choice"
  | "aggregates"
  | "draws";

/** One function of formulas: the only source for checking, completion, hover help and the reference. */
export interface Signature {
  name: string;
  family: Family;
  parameters: readonly Parameter[];
  /** A kind, or the kind of the parameter at that place. */
  returns: Kind | { like: number };
  says: string;
  example: string;
}

const NUMBERS: readonly Kind[] = ["number", "duration"];
const MOMENTS: readonly Kind[] = ["date", "datetime"];
const MEASURES: readonly Kind[] = ["number", "duration", "boolean"];
const ORDERED: readonly Kind[] = ["number", "duration", "date", "datetime"];

const one = (name: string, takes: Parameter["takes"], more: Partial<Parameter> = {}): Parameter => ({
  name,
  takes,
  ...more,
});
const define =
  (family: Family) =>
  (
    name: string,
    parameters: readonly Parameter[],
    returns: Signature["returns"],
    says: string,
    example: string,
  ): Signature => ({ name, family, parameters, returns, says, example });

const numbers = define("numbers");
const text = define("text");
const kinds = define("kinds");
const calendar = define("calendar");
const bins = define("bins");
const aggregates = define("aggregates");
const inOrder = define("rows in order");
const place = define("place");
const draws = define("draws");
const position = (suffix: string) => [one(`lat${suffix}`, ["number"]), one(`lon${suffix}`, ["number"])];
const x = one("x", NUMBERS);
const plain = one("x", ["number"]);
const words = one("text", ["text"]);
const when = one("date", MOMENTS);
const GRAIN_WORDS = ["year", "quarter", "month", "week", "day", "hour", "minute"];

const period = (grain: string) =>
  calendar(
    `by_${grain}`,
    [when],
    grain === "hour" || grain === "minute" ? { like: 0 } : "date",
    `The start of the ${grain} that holds a date.`,
    `by_${grain}(arrived)`,
  );
const unit = (name: string) =>
  calendar(name, [one("length", ["duration"])], "number", `A length of time in ${name}.`, `${name}(alongside)`);

export const SIGNATURES: readonly Signature[] = [
  numbers("abs", [x], { like: 0 }, "The size of a number without its sign.", "abs(difference)"),
  numbers(
    "round",
    [x, one("digits", ["number"], { optional: true })],
    { like: 0 },
    "Rounded to a number of decimal places, half away from zero.",
    "round(tonnes, 1)",
  ),
  numbers("floor", [x], { like: 0 }, "The next whole number below.", "floor(hours(waited))"),
  numbers("ceil", [x], { like: 0 }, "The next whole number above.", "ceil(depth)"),
  numbers("sqrt", [plain], "number", "The square root; missing below zero.", "sqrt(area)"),
  numbers("exp", [plain], "number", "e to the power of a number.", "exp(0.5)"),
  numbers("ln", [plain], "number", "The natural logarithm; missing at zero and below.", "ln(tonnes)"),
  numbers("log10", [plain], "number", "The logarithm to base ten; missing at zero and below.", "log10(tonnes)"),
  numbers("sign", [x], "number", "-1, 0 or 1.", "sign(change)"),
  numbers(
    "mod",
    [x, one("by", "same")],
    { like: 0 },
    "What is left after dividing, with the sign of the divisor.",
    "mod(row_number, 7)",
  ),
  numbers(
    "least",
    [x, one("others", "same", { repeats: true })],
    { like: 0 },
    "The smallest of several; missing if one is.",
    "least(planned, actual)",
  ),
  numbers(
    "greatest",
    [x, one("others", "same", { repeats: true })],
    { like: 0 },
    "The largest of several; missing if one is.",
    "greatest(draft, 0)",
  ),
  numbers(
    "clamp",
    [x, one("low", "same"), one("high", "same")],
    { like: 0 },
    "Held between two ends.",
    "clamp(share, 0, 1)",
  ),
  numbers("sin", [plain], "number", "The sine of an angle in radians.", "sin(angle)"),
  numbers("cos", [plain], "number", "The cosine of an angle in radians.", "cos(angle)"),
  numbers("tan", [plain], "number", "The tangent of an angle in radians.", "tan(angle)"),
  numbers("atan2", [one("y", ["number"]), plain], "number", "The angle in radians to a point.", "atan2(north, east)"),
  numbers("pi", [], "number", "3.14159…", "2 * pi()"),

  text("lower", [words], "text", "In small letters.", "lower(vessel)"),
  text("upper", [words], "text", "In capital letters.", "upper(code)"),
  text("trim", [words], "text", "Without spaces at either end.", "trim(vessel)"),
  text("length", [words], "number", "The number of characters.", "length(remarks)"),
  text(
    "contains",
    [words, one("what", ["text"])],
    "boolean",
    "True where the text holds another.",
    'contains(remarks, "fog")',
  ),
  text(
    "starts",
    [words, one("with", ["text"])],
    "boolean",
    "True where the text begins with another.",
    'starts(call_id, "C-2")',
  ),
  text(
    "ends",
    [words, one("with", ["text"])],
    "boolean",
    "True where the text ends with another.",
    'ends(file, ".csv")',
  ),
  text(
    "glob",
    [words, one("pattern", ["text"])],
    "boolean",
    "True where the whole text fits a pattern; * stands for any characters, ? for one.",
    'glob(berth, "* Quay")',
  ),
  text(
    "replace",
    [words, one("what", ["text"]), one("by", ["text"])],
    "text",
    "With every place of one text exchanged for another.",
    'replace(berth, " (old)", "")',
  ),
  text(
    "part",
    [words, one("from", ["number"]), one("length", ["number"], { optional: true })],
    "text",
    "A stretch of characters; places count from 1.",
    "part(call_id, 3, 5)",
  ),
  text(
    "concat",
    [one("first", "any"), one("others", "any", { repeats: true, optional: true })],
    "text",
    "Several values joined as one text.",
    'concat(berth, ", ", cargo)',
  ),

  kinds("number", [one("x", "any")], "number", "Read as a number; what cannot be read is missing.", "number(draft)"),
  kinds(
    "text",
    [one("x", "any"), one("format", ["text"], { optional: true, constant: true })],
    "text",
    "Written out, in a format if one is given.",
    'text(arrived, "%B %Y")',
  ),
  kinds(
    "date",
    [one("x", ["text", "date", "datetime"])],
    "date",
    "Read as a date, or a moment cut to its day.",
    'date("2024-03-01")',
  ),
  kinds(
    "datetime",
    [one("x", ["text", "date", "datetime"])],
    "datetime",
    "Read as a date with a time.",
    'datetime("2024-03-01 06:30")',
  ),
  kinds(
    "duration",
    [
      one("x", ["text", "number", "duration"]),
      one("unit", ["text"], {
        optional: true,
        constant: true,
        words: ["days", "hours", "minutes", "seconds", "weeks"],
      }),
    ],
    "duration",
    "A length of time: a number of units, or a text like 1:30:00.",
    'duration(3, "days")',
  ),
  kinds("known", [one("x", "any")], "boolean", "True where there is a value.", "known(left)"),
  kinds("missing", [one("x", "any")], "boolean", "True where there is none.", "missing(tonnes)"),
  kinds(
    "coalesce",
    [one("x", "any"), one("others", "same", { repeats: true })],
    { like: 0 },
    "The first of several that is known.",
    "coalesce(actual, planned)",
  ),

  ...GRAIN_WORDS.map(period),
  calendar(
    "by",
    [one("grain", ["text"], { constant: true, words: GRAIN_WORDS }), when],
    { like: 1 },
    "The start of a period whose grain is a setting.",
    "by($grain, arrived)",
  ),
  calendar(
    "add_months",
    [when, one("months", ["number"])],
    { like: 0 },
    "Moved by whole months; the day is held back at a month's end.",
    "add_months(arrived, 12)",
  ),
  calendar("year", [when], "number", "The year.", "year(arrived)"),
  calendar("quarter", [when], "number", "The quarter, 1 to 4.", "quarter(arrived)"),
  calendar("month", [when], "text", "The month's name, in the calendar's order.", "month(arrived)"),
  calendar("week", [when], "number", "The ISO week, 1 to 53.", "week(arrived)"),
  calendar("weekday", [when], "text", "The day's name; weeks start on Monday.", "weekday(arrived)"),
  calendar("day", [when], "number", "The day of the month.", "day(arrived)"),
  calendar("hour", [when], "number", "The hour, 0 to 23.", "hour(arrived)"),
  calendar("minute", [when], "number", "The minute, 0 to 59.", "minute(arrived)"),
  ...["days", "hours", "minutes", "seconds"].map(unit),

  bins(
    "bin",
    [one("x", ORDERED), one("count", ["number"], { constant: true })],
    { like: 0 },
    "The start of the bin that holds a value; so many equal bins over all rows.",
    "bin(waited, 20)",
  ),
  bins(
    "bin_width",
    [one("x", ORDERED), one("width", ["number", "duration"], { constant: true })],
    { like: 0 },
    "The start of the bin that holds a value; bins of one width, from zero.",
    "bin_width(waited, 2)",
  ),

  inOrder(
    "previous",
    [one("x", "any"), one("rows", ["number"], { optional: true, constant: true })],
    { like: 0 },
    "The value of the row before, or of so many rows before; missing at the " +
      "start. `within` and `order` beside the step say which row is before.",
    "tonnes - previous(tonnes)",
  ),
  inOrder(
    "next",
    [one("x", "any"), one("rows", ["number"], { optional: true, constant: true })],
    { like: 0 },
    "The value of the row after, or of so many rows after; missing at the end.",
    "next(arrived) - left",
  ),
  inOrder("row", [], "number", "The number of the row in its group, from 1.", "row()"),
  inOrder(
    "running_total",
    [one("x", MEASURES)],
    { like: 0 },
    "The total up to and with this row; missing values add nothing.",
    "running_total(leg)",
  ),
  inOrder(
    "moving_mean",
    [one("x", MEASURES), one("rows", ["number"], { constant: true })],
    { like: 0 },
    "The mean of this row and those before it, so many in all; fewer at the start.",
    "moving_mean(level, 24)",
  ),
  inOrder(
    "recur",
    [one("start", "any"), one("formula", "same")],
    { like: 0 },
    "A recurrence: the first row has the start, every other what the " +
      "formula makes of `before`, the result in the row before.",
    "recur(1000, before * 1.03 + paid)",
  ),
  inOrder(
    "rank",
    [one("x", "any")],
    "number",
    "The place in ascending order, from 1; ties share the least. rank(-tonnes) begins with the largest.",
    "rank(-tonnes)",
  ),

  place(
    "distance_km",
    [...position(""), ...position("2")],
    "number",
    "Kilometres along the great circle between two positions in degrees.",
    "distance_km(lat, lon, previous(lat), previous(lon))",
  ),
  place(
    "bearing",
    [...position(""), ...position("2")],
    "number",
    "The compass direction from one position to another, 0 to 360 degrees.",
    "bearing(previous(lat), previous(lon), lat, lon)",
  ),

  define("choice")(
    "chosen",
    [one("setting", ["text"], { constant: true })],
    { like: 1 },
    "The column that a reader chose by name; the setting lists the columns in its of.",
    "chosen($axis)",
  ),
  define("choice")(
    "agg",
    [one("setting", ["text"], { constant: true }), one("x", "any")],
    { like: 1 },
    "An aggregate that a reader chose by name; the setting lists the aggregates in its of.",
    "agg($how, tonnes)",
  ),
  define("choice")(
    "picked",
    [one("selection", "any")],
    "boolean",
    "True for rows that the reader has picked; in charts only.",
    "picked(waiting)",
  ),
  define("choice")(
    "if",
    [one("test", ["boolean"]), one("then", "any"), { name: "else", takes: "any" }],
    { like: 1 },
    "One value where the test is true, the other where it is false.",
    'if(waited > 24, "long", "short")',
  ),

  aggregates(
    "count",
    [one("x", "any", { optional: true })],
    "number",
    "How many rows; with a column, how many known values.",
    "count()",
  ),
  aggregates("distinct", [one("x", "any")], "number", "How many different known values.", "distinct(vessel)"),
  aggregates("sum", [one("x", MEASURES)], { like: 0 }, "The total; 0 of nothing.", "sum(tonnes)"),
  aggregates(
    "mean",
    [one("x", [...MEASURES, "date", "datetime"])],
    { like: 0 },
    "The total over how many are known.",
    "mean(waited)",
  ),
  aggregates("median", [one("x", ORDERED)], { like: 0 }, "The middle of the sorted values.", "median(waited)"),
  aggregates(
    "quantile",
    [one("x", ORDERED), one("p", ["number"], { constant: true })],
    { like: 0 },
    "The value below which a share p of the sorted values lies, interpolated at (n-1)p.",
    "quantile(waited, 0.9)",
  ),
  aggregates("min", [one("x", ORDERED)], { like: 0 }, "The smallest.", "min(arrived)"),
  aggregates("max", [one("x", ORDERED)], { like: 0 }, "The largest.", "max(draft)"),
  aggregates("stdev", [one("x", NUMBERS)], { like: 0 }, "The standard deviation, by n-1.", "stdev(waited)"),
  aggregates("variance", [plain], "number", "The variance, by n-1.", "variance(waited)"),
  aggregates("first", [one("x", "any")], { like: 0 }, "The first known value in the table's order.", "first(vessel)"),
  aggregates("last", [one("x", "any")], { like: 0 }, "The last known value in the table's order.", "last(vessel)"),
  aggregates(
    "corr",
    [plain, one("y", ["number"])],
    "number",
    "How closely two columns lie on a line, -1 to 1, by the product moments of the rows where both are known.",
    "corr(draft, tonnes)",
  ),
  aggregates(
    "slope",
    [one("y", ["number"]), plain],
    "number",
    "How much y rises for each x, by least squares.",
    "slope(tonnes, draft)",
  ),
  aggregates(
    "share",
    [one("total", ["number", "duration"])],
    "number",
    "A sum or count as a part of its panel's whole.",
    "share(count())",
  ),

  draws(
    "uniform",
    [one("low", ["number"]), one("high", ["number"])],
    "number",
    "A random number between two, every one as likely; the same in every build, from the table's seed.",
    "uniform(0, 1)",
  ),
  draws(
    "normal",
    [one("mean", ["number"]), one("deviation", ["number"])],
    "number",
    "A random number around a mean.",
    "normal(20, 3)",
  ),
  draws(
    "exponential",
    [one("rate", ["number"])],
    "number",
    "A random time between events that come at a rate.",
    "exponential(0.5)",
  ),
];

const BY_NAME = new Map(SIGNATURES.map((signature) => [signature.name, signature]));

export const signatureOf = (name: string): Signature | undefined => BY_NAME.get(name);

export const FUNCTION_NAMES: readonly string[] = SIGNATURES.map((signature) => signature.name);

/** `round(x, [digits])`, as help shows it. */
export function writeSignature(signature: Signature): string {
  const parameters = signature.parameters.map((parameter) => {
    const name = parameter.repeats ? `${parameter.name}…` : parameter.name;
    return parameter.optional ? `[${name}]` : name;
  });
  return `${signature.name}(${parameters.join(", ")})`;
}
