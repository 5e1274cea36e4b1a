import { z } from "zod";
import { PALETTE_NAMES } from "../scene/theme";
import { choice, colour, columnName, formula, number, onOff, tableName, value, words } from "./scalars";

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
  open: onOff(
    "true: readers may put a file of the same columns in the place of a table's rows; all its steps then run over it.",
  ).optional(),
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

export type LinkStart = z.output<typeof linkStart>;
export type NoteSpec = z.output<typeof noteSchema>;
export type PageSpec = z.output<typeof pageSchema>;
export type StyleSpec = z.output<typeof styleSchema>;
