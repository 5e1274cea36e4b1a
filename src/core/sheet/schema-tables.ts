import { z } from "zod";
import {
  choice,
  colour,
  columnName,
  format,
  formula,
  number,
  numberOrSetting,
  oneOrMore,
  onOff,
  tableName,
  value,
  words,
} from "./scalars";

const KINDS = ["number", "text", "boolean", "date", "datetime", "duration", "place"] as const;

const columnMap = z.strictObject({
  type: choice(KINDS, "What the column holds.").optional(),
  read: format(
    'How its text is read: strptime letters such as "%d/%m/%Y %H:%M", ' +
      'for numbers an example with their marks, "1.234,5", for booleans their two words, yes/no.',
  ).optional(),
  label: words("The name that readers see.").optional(),
  unit: words("The unit, shown beside values and in axis titles.").optional(),
  format: format(
    "How values are written: d3-format, strftime, yes/no for " +
      "booleans, or h:mm:ss, h:mm, m:ss, m:ss.00 for lengths of time.",
  ).optional(),
  order: z
    .array(value("A value of the column."))
    .meta({ says: "Its values in the order in which they stand." })
    .optional(),
  colors: z
    .record(z.string(), colour("The colour of this value wherever the column is the colour."))
    .meta({ says: "Colours of its values." })
    .optional(),
  role: choice(["image"], "image: its texts are addresses of pictures.").optional(),
  missing_as: z
    .array(value("A spelling of missing."))
    .meta({ says: "Texts that mean missing in this column alone." })
    .optional(),
  split: words('What parts several values in one cell: ", ". A pick matches any of them.').optional(),
});

export const columnSchema = z.union([choice(KINDS, "What the column holds."), columnMap]);

const columnList = z
  .array(columnName("A column, or a pattern with * and ?."))
  .meta({ says: "Columns by name; * and ? stand for any characters." });
const allBut = z.strictObject({ all_but: columnList.meta({ says: "All columns but these." }) });
const columns = z.union([columnList, allBut, z.array(z.union([columnName("A column."), allBut]))]);

/** Columns of a step: names and patterns, all but some, or a list of both. */
export type ColumnsSpec = z.infer<typeof columns>;

export const stepSchema = z.strictObject({
  keep: formula("Keeps rows where the formula is true.").optional(),
  add: z
    .record(z.string(), formula("The formula of the column."))
    .meta({ says: "Adds or replaces columns, each seeing those above it." })
    .optional(),
  only: columns.meta({ says: "Keeps only these columns, in this order." }).optional(),
  drop: columns.meta({ says: "Takes columns away." }).optional(),
  rename: z
    .record(z.string(), words("The new name."))
    .meta({ says: "Gives columns new names, {old: new}." })
    .optional(),
  unique: z
    .union([choice(["all"], "Compares whole rows."), columnList])
    .meta({ says: "Drops rows that repeat earlier ones in these columns." })
    .optional(),
  group: z
    .strictObject({
      by: oneOrMore(formula("A column or FORMULA as name.")).meta({ says: "One row for each of these." }),
      get: z
        .record(z.string(), formula("An aggregate, such as sum(tonnes)."))
        .meta({ says: "What each group gets." })
        .optional(),
    })
    .meta({ says: "One row per group." })
    .optional(),
  sample: z
    .strictObject({
      rows: numberOrSetting("How many rows."),
      seed: number("Another seed gives another sample.").optional(),
    })
    .meta({ says: "A repeatable sample of rows." })
    .optional(),
  unpivot: z
    .strictObject({
      columns: columns.meta({ says: "The columns whose heads become values." }),
      name: z
        .union([
          words("The column that gets the old heads."),
          z.record(z.string(), choice(["text", "number", "date"], "How the old heads are read.")),
        ])
        .meta({ says: "The column that gets the old heads; {year: number} reads them as numbers." }),
      value: words("The column that gets the values."),
    })
    .meta({ says: "Wide to long: one row for each of these columns." })
    .optional(),
  pivot: z
    .strictObject({
      by: oneOrMore(columnName("A column that stays.")).meta({ says: "One row for each combination of these." }),
      name: columnName("The column whose values become heads."),
      value: formula("The aggregate in each cell, such as sum(tonnes)."),
    })
    .meta({ says: "Long to wide: one column for each value." })
    .optional(),
  join: z
    .strictObject({
      table: tableName("The look-up table."),
      on: z
        .union([
          columnName("The column that both have."),
          z.array(columnName("A column that both have.")),
          z.record(z.string(), columnName("The column of the look-up table.")),
        ])
        .meta({ says: "What must be equal; {berth: code} where names differ." }),
      get: z
        .union([columnList, z.record(z.string(), columnName("The column of the look-up table."))])
        .meta({ says: "The columns that come along; {lat_to: lat} under new names." }),
      unmatched: choice(["keep", "drop"], "What becomes of rows that find none; keep if unsaid.").optional(),
    })
    .meta({ says: "Columns of a look-up table beside the rows that find it; of several matches the first." })
    .optional(),
  stack: oneOrMore(tableName("A table with the same columns."))
    .meta({ says: "Adds the rows of other tables with the same columns." })
    .optional(),
  fill: z
    .record(z.string(), value("What stands in place of missing."))
    .meta({ says: "Values in place of missing ones." })
    .optional(),
  fill_forward: columns.meta({ says: "The last known value in place of missing ones, in order, within." }).optional(),
  smooth: z
    .strictObject({
      x: formula("Along which the curve runs."),
      y: formula("What is smoothed."),
      span: numberOrSetting("The share of the rows that each place looks at; 0.3 if unsaid.").optional(),
      by: oneOrMore(formula("A column or FORMULA as name.")).meta({ says: "A curve for each of these." }).optional(),
    })
    .meta({ says: "A smooth curve by local regression, at 200 places." })
    .optional(),
  density: z
    .strictObject({
      of: formula("The values."),
      kernel: words("gaussian, epanechnikov, triangular, uniform, or a setting.").optional(),
      adjust: numberOrSetting("Makes the curve smoother above 1, rougher below.").optional(),
      by: oneOrMore(formula("A column or FORMULA as name.")).meta({ says: "A curve for each of these." }).optional(),
    })
    .meta({ says: "How densely values lie, at 200 places, in the column density." })
    .optional(),
  words: z
    .strictObject({
      of: formula("The texts."),
      skip: choice(["english"], "Leaves out words that only link others.").optional(),
    })
    .meta({ says: "One row per word, with the columns word and count." })
    .optional(),
  sort: oneOrMore(formula("A column or formula; - before it: descending.").meta({ role: "sort item" }))
    .meta({ says: "Sorts rows; missing last." })
    .optional(),
  first: numberOrSetting("Keeps this many rows from the top; per group with within.").optional(),
  last: numberOrSetting("Keeps this many rows from the end; per group with within.").optional(),
  within: columnList.meta({ says: "Each group of rows by itself." }).optional(),
  order: oneOrMore(formula("A column or formula; - before it: descending.").meta({ role: "sort item" }))
    .meta({ says: "The order in which functions look at other rows." })
    .optional(),
  off: onOff("Switched off for a look: the rows pass unchanged.").optional(),
  why: words("Why this step is there; shown in the ledger.").optional(),
});

/** The keys that make a step; exactly one stands in each. */
export const STEP_KEYS = [
  "keep",
  "add",
  "only",
  "drop",
  "rename",
  "unique",
  "group",
  "sort",
  "first",
  "last",
  "sample",
  "unpivot",
  "pivot",
  "join",
  "stack",
  "fill",
  "fill_forward",
  "smooth",
  "density",
  "words",
] as const;

export const tableSchema = z.strictObject({
  label: words("What its rows are called: 2,700 of 2,700 rides.").optional(),
  read: words("The file that the table is read from, beside the sheet or below it; * and ? stack several.")
    .meta({ role: "file" })
    .optional(),
  file_as: words("A column that gets the part of the file's name in which stacked files differ.").optional(),
  sheet: words("The sheet of a workbook; the first if unsaid.").optional(),
  header: z
    .string()
    .refine((text) => /^[1-9]\d*$|^none$/.test(text), {
      error: "the number of the row with the names of the columns, or none",
    })
    .meta({ role: "value", says: "The row that names the columns, counted from 1, or none." })
    .optional(),
  make: z
    .strictObject({
      rows: number(
        "How many rows.",
        "a number is expected; to let a setting say it, make the most and begin with first: $n",
      ),
      seed: number("The seed of its random draws.").optional(),
    })
    .meta({ says: "So many rows with no column, to add to: for simulated draws." })
    .optional(),
  rows: z
    .union([
      words("Rows as CSV text, the first line naming the columns."),
      z.array(z.record(z.string(), value("A cell.").nullable())),
    ])
    .meta({ says: "Rows written in the sheet: a list of maps, or CSV text." })
    .optional(),
  from: tableName("The table that this one is made from; $setting where a reader chooses among tables.").optional(),
  columns: z
    .record(z.string(), columnSchema)
    .meta({ says: "What reading should not decide by itself, and words and colours of columns." })
    .optional(),
  missing_as: z
    .array(value("A spelling of missing."))
    .meta({ says: "Texts that mean missing in this table." })
    .optional(),
  zone: z
    .string()
    .refine((text) => /^UTC$|^[+-]\d{2}:\d{2}$/.test(text), { error: "UTC or a fixed offset such as +02:00" })
    .meta({ role: "value", says: "The clock on which times that came with an offset are told." })
    .optional(),
  steps: z.array(stepSchema).meta({ says: "What is done to the rows, in order." }).optional(),
});

export type ColumnSpec = z.output<typeof columnMap>;
export type StepSpec = z.output<typeof stepSchema>;
export type TableSpec = z.output<typeof tableSchema>;
