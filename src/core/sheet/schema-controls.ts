import { z } from "zod";
import { BUTTON_DEEDS } from "../control/deeds";
import { LOOKS } from "../control/index";
import { choice, columnName, end, formula, number, onOff, tableName, value, words } from "./scalars";

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
      z.array(
        z.union([
          value("A value picked at the start."),
          z.record(z.string(), value("A value.")).meta({ says: "A condition: a column, and a test with its value." }),
        ]),
      ),
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
    .array(end("An end: a number, a date or a length of time."))
    .length(2, { error: "two ends are expected, [from, to]" })
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

export type ControlSpec = z.output<typeof controlSchema>;
