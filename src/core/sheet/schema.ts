import { z } from "zod";
import { LEGEND_PLACES, PROJECTIONS, STACKINGS, TAKES, ZOOM_WAYS } from "../chart/plan";
import { BUTTON_DEEDS } from "../control/deeds";
import { LOOKS } from "../control/index";
import { CHANNEL_NAMES, CHANNELS, type ChannelName } from "../mark/channels";
import { MARK_NAMES, MARK_OPTIONS } from "../mark/specs";
import { SCALE_NAMES } from "../scale/scale-kinds";
import { PALETTE_NAMES, RAMP_NAMES } from "../scene/theme";
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

/**
 * The sheet's schema: the one source of checking, types, the published JSON Schema,
 * completion, hover help and the reference in docs. `says` is the help of each key.
 */

const KINDS = ["number", "text", "boolean", "date", "datetime", "duration", "place"] as const;

const columnMap = z.strictObject({
  type: choice(KINDS, "What the column holds.").optional(),
  read: format(
    'How its text is read: strptime letters such as "%d/%m/%Y %H:%M", or for numbers an example with their marks: "1.234,5".',
  ).optional(),
  label: words("The name that readers see.").optional(),
  unit: words("The unit, shown beside values and in axis titles.").optional(),
  format: format("How values are written: d3-format, strftime, or h:mm:ss.").optional(),
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
const columns = z.union([columnList, z.strictObject({ all_but: columnList.meta({ says: "All columns but these." }) })]);

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
    .strictObject({ rows: number("How many rows."), seed: number("The seed of its random draws.").optional() })
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

const chartList = (says: string) => z.array(columnName("A chart.")).meta({ says }).optional();

export const controlSchema = z.strictObject({
  pick: formula("The column or formula whose values a reader picks; any: conditions that the reader makes.").optional(),
  search: z.array(columnName("A column.")).meta({ says: "Columns in which a text is looked for." }).optional(),
  set: z
    .union([
      value("The value that the setting starts with."),
      z.array(value("A value that is in the list at the start.")),
    ])
    .meta({ says: "The value that the setting starts with; a list makes a list of which readers take some." })
    .optional(),
  button: words("The words on a button.").optional(),
  does: choice(BUTTON_DEEDS, "What a button does.").optional(),
  to: z
    .array(columnName("A control, table or chart."))
    .meta({ says: "Controls that apply or reset, tables drawn anew, charts that are exported." })
    .optional(),
  from: tableName("The table whose rows are picked.").optional(),
  as: choice(LOOKS, "How it looks.").optional(),
  label: words("The words above it.").optional(),
  start: z
    .union([
      value("A value picked at the start."),
      z.array(value("A value picked at the start.")),
      z.strictObject({ from: value("The lower end.").optional(), to: value("The upper end.").optional() }),
    ])
    .meta({ says: "What is picked at the start; all: everything is ticked." })
    .optional(),
  all: onOff("Whether readers can go back to all values.").optional(),
  none: choice(["all", "nothing"], "What it means when nothing is ticked.").optional(),
  most: number("Most values that can be ticked at once.").optional(),
  only: chartList("The only charts that it filters."),
  fade: chartList("Charts in which it fades instead."),
  highlight: chartList("Charts in which it highlights instead."),
  zoom: chartList("Charts whose axis follows it instead."),
  range: z
    .array(number("An end."))
    .length(2, { error: "two numbers are expected, [from, to]" })
    .meta({ says: "The ends of a rail." })
    .optional(),
  step: number("How far one move of a slider goes.").optional(),
  scale: choice(["linear", "log"], "How values become places on a rail.").optional(),
  act: choice(["on_release"], "A slider acts when it is let go.").optional(),
  of: z
    .union([
      words("columns(TABLE, number) or values(TABLE, COLUMN).").meta({ role: "value" }),
      z.array(value("A value, or a column.")),
      z.record(z.string(), words("The words for this value.")),
    ])
    .meta({ says: "The values of a setting: a list, {value: label}, columns(TABLE, number) or values(TABLE, COLUMN)." })
    .optional(),
});

/** What is drawn without axes. */
const OTHER_PIECES = ["figure", "table", "summary"] as const;

const axis = z.strictObject({
  scale: choice(SCALE_NAMES, "How values become places.").optional(),
  from_zero: onOff("Whether the axis holds zero.").optional(),
  range: z
    .union([
      choice(["all", "left"], "all: over all rows; left: over those left."),
      z.array(number("An end.")).length(2, { error: "two numbers are expected" }),
    ])
    .optional(),
  reverse: onOff("Turned around.").optional(),
  title: words("The words beside the axis.").optional(),
  format: format("How its values are written.").optional(),
  ticks: number("About how many values are written.").optional(),
  grid: onOff("Lines across the plot.").optional(),
  hidden: onOff("Not drawn.").optional(),
});

/** The upright axis, which can stand at either side. */
const uprightAxis = axis.extend({ side: choice(["left", "right"], "At which side of the plot it stands.").optional() });

type ChannelKey = Exclude<ChannelName, "panel" | "across" | "down" | "label" | "value">;

/** The channels of a chart, made from the table of them. */
const channels = {
  ...(Object.fromEntries(
    CHANNEL_NAMES.filter((name) => !("made" in CHANNELS[name]) && name !== "label").map((name) => [
      name,
      formula(CHANNELS[name].says).optional(),
    ]),
  ) as Record<ChannelKey, ReturnType<ReturnType<typeof formula>["optional"]>>),
  value: formula(CHANNELS.value.says).optional(),
  label: z
    .union([formula(CHANNELS.label.says), z.strictObject({ says: words("Fixed words.") })])
    .meta({ says: CHANNELS.label.says })
    .optional(),
  tooltip: z
    .union([
      z.array(formula("A formula.")),
      words("none: no tooltip; else a line of words, in which {…} stand for formulas, settings and selections."),
    ])
    .meta({ says: "What a tooltip shows: a list of formulas, or a line of words; left out, the channels in use." })
    .optional(),
};

type OptionKey = "steps" | "gradient" | "shade" | "ring" | "span" | "kernel" | "adjust";

/** What only some marks take: numbers, switches and words, each of which a setting may say. */
const options = Object.fromEntries(
  Object.entries(MARK_OPTIONS).map(([key, { says }]) => [key, z.string().meta({ role: "value", says }).optional()]),
) as Record<OptionKey, z.ZodOptional<z.ZodString>>;

const carry = z
  .array(formula("A column or FORMULA as name."))
  .meta({ says: "Columns that come along with the rows behind the marks, without being drawn." })
  .optional();

export const layerSchema = z.strictObject({
  draw: choice(MARK_NAMES, "What is drawn."),
  name: words("The layer's name.").meta({ role: "name" }).optional(),
  from: tableName("The table that it is drawn from, if not the chart's.").optional(),
  keep: formula("Only rows where this is true.").optional(),
  carry,
  show: value("true, false, or the setting that switches it on and off.").optional(),
  axes: z
    .strictObject({ y: uprightAxis })
    .meta({ says: "{y: {side: right}}: a second scale for what it measures, with words of its own." })
    .optional(),
  ...channels,
  ...options,
});

export const chartSchema = z.strictObject({
  draw: choice([...MARK_NAMES, ...OTHER_PIECES], "What is drawn.").optional(),
  layers: z
    .array(layerSchema)
    .min(1)
    .meta({ says: "Several marks on the same axes; each takes over the chart's channels." })
    .optional(),
  from: tableName("The table that is drawn."),
  keep: formula("Only rows where this is true.").optional(),
  ...channels,
  ...options,
  panels: z
    .union([
      formula("Small charts, one a value."),
      z.strictObject({
        by: formula("Small charts, one a value.").optional(),
        across: formula("Side by side, one a value; beside by: how many in a row.").optional(),
        down: formula("One under the other, one a value.").optional(),
        share: z
          .array(choice(["x", "y"], "An axis that all of them share."))
          .meta({ says: "Axes that are the same in all of them." })
          .optional(),
      }),
    ])
    .meta({ says: "Small charts of one sort, one for each value." })
    .optional(),
  top: z
    .strictObject({
      x: numberOrSetting("How many come first.").optional(),
      y: numberOrSetting("How many come first.").optional(),
      rest: words("The name of one last place for all others; without it they are not drawn.").optional(),
    })
    .meta({ says: "The first categories by the axis's sort, among the rows left." })
    .optional(),
  zoom: z
    .union([choice(["none"], "Not at all."), z.array(choice(ZOOM_WAYS, "What looks closer."))])
    .meta({ says: "What looks closer: drag, wheel, pan, or none; unsaid, maps take wheel and pan." })
    .optional(),
  carry,
  margin: z
    .strictObject({
      top: number("Pixels.").optional(),
      right: number("Pixels.").optional(),
      bottom: number("Pixels.").optional(),
      left: number("Pixels.").optional(),
    })
    .meta({ says: "The least room between plot and edge, in pixels." })
    .optional(),
  height: number("The height of the piece in pixels, where the page leaves it free.").optional(),
  wait_for: words("The selection or pick without which nothing is drawn.").meta({ role: "name" }).optional(),
  map: z
    .strictObject({
      projection: choice(PROJECTIONS, "How the earth is laid flat.").optional(),
      under: z
        .array(tableName("A table with places, or world."))
        .meta({ says: "What lies under the marks." })
        .optional(),
      scale_bar: onOff("A bar of a round length.").optional(),
    })
    .meta({ says: "How a map looks." })
    .optional(),
  against: formula("What a figure is compared with.").optional(),
  by: formula("A figure for each value of this.").optional(),
  spark: formula("What the small line of a figure runs along, such as by_month(arrived).").optional(),
  format: format("How a figure is written.").optional(),
  columns: z.array(formula("A column or FORMULA as name.")).meta({ says: "The columns of a data table." }).optional(),
  page: oneOrMore(z.string().refine((text) => /^[1-9]\d*$|^all$/.test(text), { error: "a number of rows, or all" }))
    .meta({ says: "Rows a page; a list lets the reader choose." })
    .optional(),
  take: z
    .union([choice(["none"], "Not at all."), z.array(choice(TAKES, "How rows can be taken away."))])
    .meta({ says: "How readers can take the rows away; all four ways if unsaid." })
    .optional(),
  cells: z
    .record(
      z.string(),
      z.strictObject({
        format: format("How its values are written.").optional(),
        bar: onOff("A bar behind the number.").optional(),
        shade: choice(RAMP_NAMES, "The ramp in which the cell is coloured.").optional(),
        middle: number("The value from which both sides of the ramp go away.").optional(),
      }),
    )
    .meta({ says: "Columns whose cells are drawn by their values, or written in a format of their own." })
    .optional(),
  totals: onOff("Sums under the rows.").optional(),
  axes: z
    .strictObject({ x: axis.optional(), y: uprightAxis.optional() })
    .meta({ says: "How the axes look." })
    .optional(),
  sort: z
    .partialRecord(
      z.enum(["x", "y", "color"]),
      z.union([
        formula("A formula by which categories are sorted; - before it: descending.").meta({ role: "sort item" }),
        z.array(value("A category.")),
      ]),
    )
    .meta({ says: "The order of categories." })
    .optional(),
  colors: z
    .union([
      choice([...PALETTE_NAMES, ...RAMP_NAMES], "A palette for categories, or a ramp for numbers."),
      z.array(colour("A colour.")),
      z.record(z.string(), colour("The colour of this value.")),
    ])
    .meta({ says: "A palette, a ramp, colours in order, or colours of values." })
    .optional(),
  middle: number("The value from which both sides of a ramp of colours go away.").optional(),
  stacking: choice(STACKINGS, "How marks of several colours share a place.").optional(),
  legend: z
    .strictObject({
      at: choice(LEGEND_PLACES, "Where it stands.").optional(),
      press: choice(["remove", "fade", "nothing"], "What pressing an entry does.").optional(),
      refit: onOff("Whether the axes close on what is left.").optional(),
    })
    .meta({ says: "The legend." })
    .optional(),
  title: words("The title.").optional(),
  subtitle: words("A line under the title.").optional(),
  credit: words("Where the data come from.").optional(),
  hint: words("A hint to the reader.").optional(),
  empty: words("What stands there when no row passes.").optional(),
});

export const noteSchema = z.strictObject({
  text: words("Markdown; {name} stands for a value of get:, {$setting}, {selection.column} and formulas for theirs."),
  from: tableName("The table of its values.").optional(),
  get: z
    .record(z.string(), formula("An aggregate, such as sum(tonnes)."))
    .meta({ says: "Values that stand in the text, by name." })
    .optional(),
});

const shared = (says: string) =>
  z.array(columnName("A piece, a control, or another area.")).min(1).meta({ says }).optional();

export const pageSchema = z.strictObject({
  page: words("The page's name."),
  grid: words("Rows of names; one name in adjoining cells is one area; . is empty.").optional(),
  columns: words("Widths of the columns, as CSS tracks: 2fr 3fr.").optional(),
  rows: words("Heights of the rows, as CSS tracks: 96px 1fr.").optional(),
  areas: z
    .record(
      z.string(),
      z.strictObject({
        tabs: shared("One after the other is seen, chosen by its title."),
        stack: shared("One under the other."),
        beside: shared("Side by side."),
      }),
    )
    .meta({ says: "Names of the grid under which several pieces share one place." })
    .optional(),
  side: z.array(columnName("A control.")).meta({ says: "Controls in the column at the side." }).optional(),
  height: choice(["screen", "content"], "Whether the page fills the screen or grows.").optional(),
});

const mark = (says: string) =>
  z
    .string()
    .refine((text) => /^[^0-9-]?$/u.test(text), { error: "one character that is no digit" })
    .meta({ role: "value", says });

export const styleSchema = z.strictObject({
  use: words("A house style shared by many sheets; the sheet's own keys win.").meta({ role: "file" }).optional(),
  accent: colour("The colour of what is picked and highlighted.").optional(),
  palette: z
    .union([choice(PALETTE_NAMES, "A palette."), z.array(colour("A colour.")).min(1)])
    .meta({ says: "The colours of categories: a palette's name, or a list." })
    .optional(),
  numbers: z
    .strictObject({
      decimal: mark("The mark between whole and part.").optional(),
      thousands: mark("The mark between thousands; empty for none.").optional(),
    })
    .meta({ says: 'The marks in numbers, such as {decimal: ",", thousands: " "}.' })
    .optional(),
  logo: words("A picture beside the title: an SVG or PNG file, which goes along.").meta({ role: "file" }).optional(),
  fade: number("How faint the rest is where a selection fades, 0 to 1; 0.15 if unsaid.").optional(),
  pictures: choice(
    ["packed", "outside"],
    "packed: files beside the sheet go along; outside: pictures are fetched from their addresses.",
  ).optional(),
  tables: choice(["whole"], "whole: all columns and rows of all tables go along.").optional(),
  ground: choice(["light", "dark", "auto"], "Light or dark, or as the reader's machine is set.").optional(),
  sheet: choice(
    ["leave_out", "keep"],
    "leave_out: the sheet's text is not in the file; keep: it is in each edition too.",
  ).optional(),
  type: choice(["packed", "system"], "packed: the report's own type; system: the reader's.").optional(),
});

const sentence = z.string().meta({ role: "link", says: "GESTURE on SOURCE -> EFFECT TARGETS, or cross-filter TABLE." });

const twoEnds = (says: string) =>
  z.array(value("An end.")).length(2, { error: "two ends are expected, [from, to]" }).meta({ says }).optional();

const linkStart = z
  .union([
    value("The value that is picked."),
    z.array(value("A value that is picked, or an end of the range.")),
    z.strictObject({
      x: twoEnds("The range along x."),
      y: twoEnds("The range along y."),
      keys: z
        .array(z.record(z.string(), value("The value of this column.")))
        .meta({ says: "What is picked: values of columns." })
        .optional(),
    }),
  ])
  .meta({ says: "What is selected at the start: {x: [from, to]}, {keys: [{column: value}]}, or values." });

export const linkSchema = z
  .union([sentence, z.strictObject({ link: sentence, start: linkStart.optional() })])
  .meta({ says: "GESTURE on SOURCE -> EFFECT TARGETS, cross-filter TABLE, or {link: SENTENCE, start: …}." });

export const topSchema = z.strictObject({
  still: choice(["1"], "The version of the language."),
  report: words("The report's title."),
  about: words("Markdown under the title.").optional(),
  use: z
    .array(words("A sheet beside this one.").meta({ role: "file" }))
    .meta({ says: "Other sheets whose tables, controls and style are taken in." })
    .optional(),
  tables: z.record(z.string(), tableSchema).meta({ says: "Where rows come from and what is done to them." }).optional(),
  controls: z.record(z.string(), controlSchema).meta({ says: "What a reader sets or picks." }).optional(),
  charts: z
    .record(z.string(), chartSchema)
    .meta({ says: "What is drawn: charts, data tables and figures." })
    .optional(),
  notes: z.record(z.string(), noteSchema).meta({ says: "Texts beside the charts, in which values stand." }).optional(),
  links: z.array(linkSchema).meta({ says: "Which gesture where does what to which." }).optional(),
  views: z
    .record(z.string(), words("The address behind # of the dashboard in that state."))
    .meta({ says: "States that readers are offered by name, {name: ADDRESS}." })
    .optional(),
  editions: z
    .strictObject({
      by: words("The column, or TABLE.column: one file for each of its values."),
      file: words('The names of the files, "{berth}" standing for the value; {COLUMN} if unsaid.').optional(),
      index: onOff("A page with links to all of them; true if unsaid.").optional(),
    })
    .meta({ says: "One file for each value of a column." })
    .optional(),
  pages: z.array(pageSchema).meta({ says: "What stands where." }).optional(),
  style: styleSchema.meta({ says: "How the dashboard looks." }).optional(),
});

export type EditionsSpec = NonNullable<z.output<typeof topSchema>["editions"]>;
export type LinkStart = z.output<typeof linkStart>;
export type ColumnSpec = z.output<typeof columnMap>;
export type StepSpec = z.output<typeof stepSchema>;
export type TableSpec = z.output<typeof tableSchema>;
export type ControlSpec = z.output<typeof controlSchema>;
export type LayerSpec = z.output<typeof layerSchema>;
export type NoteSpec = z.output<typeof noteSchema>;
export type ChartSpec = z.output<typeof chartSchema>;
export type AxisSpec = z.output<typeof uprightAxis>;
export type PageSpec = z.output<typeof pageSchema>;
export type StyleSpec = z.output<typeof styleSchema>;
