import { z } from "zod";
import { LEGEND_PLACES, PROJECTIONS, STACKINGS, TAKES, ZOOM_WAYS } from "../chart/plan";
import { CHANNEL_SAYS, type ChannelName } from "../mark/channels";
import { MARK_NAMES, MARK_OPTIONS } from "../mark/specs";
import { SCALE_NAMES } from "../scale/scale-kinds";
import { PALETTE_NAMES, RAMP_NAMES } from "../scene/theme";
import {
  choice,
  colour,
  end,
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

/** What is drawn without axes. */
const OTHER_PIECES = ["figure", "table", "summary"] as const;

const axis = z.strictObject({
  scale: choice(SCALE_NAMES, "How values become places.").optional(),
  from_zero: onOff("Whether the axis holds zero.").optional(),
  range: z
    .union([
      choice(["all", "left"], "all: over all rows; left: over those left."),
      z.array(end("An end: a number, a date or a setting.")).length(2, { error: "two ends are expected" }),
    ])
    .optional(),
  reverse: onOff("Turned around.").optional(),
  title: words("The words beside the axis; none for none.").optional(),
  format: format("How its values are written.").optional(),
  ticks: numberOrSetting("About how many values are written.").optional(),
  grid: onOff("Lines across the plot.").optional(),
  hidden: onOff("Not drawn.").optional(),
});

/** The upright axis, which can stand at either side. */
const uprightAxis = axis.extend({ side: choice(["left", "right"], "At which side of the plot it stands.").optional() });

type ChannelKey = Exclude<ChannelName, "panel" | "across" | "down" | "label" | "value">;

/** The channels of a chart, made from the table of them. */
const channels = {
  ...(Object.fromEntries(
    Object.entries(CHANNEL_SAYS)
      .filter(([name]) => name !== "label")
      .map(([name, says]) => [name, formula(says).optional()]),
  ) as Record<ChannelKey, ReturnType<ReturnType<typeof formula>["optional"]>>),
  value: formula(CHANNEL_SAYS.value).optional(),
  label: z
    .union([formula(CHANNEL_SAYS.label), z.strictObject({ says: words("Fixed words.") })])
    .meta({ says: CHANNEL_SAYS.label })
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
      under: oneOrMore(tableName("A table with places, or world."))
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
  totals: z
    .union([
      onOff("Sums under the rows, of what adds up."),
      z.array(words("A column of numbers.").meta({ role: "name" })).min(1),
    ])
    .meta({ says: "Sums under the rows: of all columns that add up, or of those named." })
    .optional(),
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

export type LayerSpec = z.output<typeof layerSchema>;
export type ChartSpec = z.output<typeof chartSchema>;
export type AxisSpec = z.output<typeof uprightAxis>;
