import { z } from "zod";
import { choice, onOff, words } from "./scalars";
import { chartSchema } from "./schema-charts";
import { controlSchema } from "./schema-controls";
import { linkSchema, noteSchema, pageSchema, styleSchema } from "./schema-pages";
import { tableSchema } from "./schema-tables";

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
