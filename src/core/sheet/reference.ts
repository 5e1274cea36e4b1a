import { z } from "zod";
import { FUNCTION_NAMES, SIGNATURES, type Signature, writeSignature } from "../formula/signatures";

import { EFFECTS } from "../link/effects/index";
import { GESTURES } from "../link/gestures/index";
import { topSchema } from "./schema";

/** JSON Schema of a sheet, for editors and scripts: made from the schema itself. */
export interface JsonSchema {
  type?: string;
  properties?: Record<string, JsonSchema>;
  additionalProperties?: JsonSchema | boolean;
  items?: JsonSchema;
  anyOf?: JsonSchema[];
  enum?: string[];
  says?: string;
  role?: string;
  required?: string[];
}

/** A schema as editors know it, whose texts may be numbers and switches too. */
export type PublishedSchema = { [key: string]: unknown };

/** Texts that YAML takes for something else by itself. */
const unquoted = (word: string): unknown => {
  if (word === "true" || word === "false") return word === "true";
  return /^\d+$/.test(word) ? Number(word) : undefined;
};

function published(schema: JsonSchema): PublishedSchema {
  const { says, role: _, type, properties, additionalProperties, items, anyOf, enum: words, ...rest } = schema;
  const inner = (map: Record<string, JsonSchema>) =>
    Object.fromEntries(Object.entries(map).map(([key, value]) => [key, published(value)]));
  const plain = words?.map(unquoted).filter((word) => word !== undefined) ?? [];
  return {
    ...rest,
    ...(says ? { description: says } : {}),
    // A sheet reads the text of every scalar, however YAML would take it.
    ...(words ? { enum: [...words, ...plain] } : type === "string" ? { type: ["string", "number", "boolean"] } : {}),
    ...(type && type !== "string" ? { type } : {}),
    ...(properties ? { properties: inner(properties) } : {}),
    ...(typeof additionalProperties === "object" ? { additionalProperties: published(additionalProperties) } : {}),
    ...(typeof additionalProperties === "boolean" ? { additionalProperties } : {}),
    ...(items ? { items: published(items) } : {}),
    ...(anyOf ? { anyOf: anyOf.map(published) } : {}),
  };
}

/** The JSON Schema of sheets for editors: completion, help and checks by the schema that the house itself goes by. */
export const publishedSchema = (): PublishedSchema => ({
  ...published(sheetJsonSchema()),
  title: "Still Harbor sheet",
});

/** The schema as the house goes by it: every scalar is a text. */
export function sheetJsonSchema(): JsonSchema {
  return z.toJSONSchema(topSchema, { io: "input", unrepresentable: "any" }) as JsonSchema;
}

/** What a value of a schema is, in words. */
export function shapeOf(schema: JsonSchema): string {
  if (schema.anyOf) return [...new Set(schema.anyOf.map(shapeOf))].join(" or ");
  if (schema.enum) return schema.enum.map((word) => `\`${word}\``).join(" ");
  if (schema.type === "array") return `list of ${schema.items ? shapeOf(schema.items) : "values"}`;
  if (schema.type === "object") return schema.properties ? "map" : "map of names";
  return schema.role ?? "text";
}

/** Maps with keys of their own below a schema: where the reference goes on. */
function inner(schema: JsonSchema): { schema: JsonSchema; suffix: string } | undefined {
  if (schema.anyOf) return schema.anyOf.map(inner).find((found) => found !== undefined);
  if (schema.type === "array" && schema.items) {
    const found = inner(schema.items);
    return found && { ...found, suffix: `[]${found.suffix}` };
  }
  if (schema.type !== "object") return undefined;
  if (schema.properties) return { schema, suffix: "" };
  if (typeof schema.additionalProperties === "object") {
    const found = inner(schema.additionalProperties);
    return found && { ...found, suffix: `.NAME${found.suffix}` };
  }
  return undefined;
}

function keyTables(schema: JsonSchema, name: string, lines: string[]) {
  const deeper: [string, JsonSchema][] = [];
  lines.push(`### ${name}`, "", "| key | takes | |", "|---|---|---|");
  for (const [key, value] of Object.entries(schema.properties ?? {})) {
    const needed = schema.required?.includes(key) ? " (needed)" : "";
    lines.push(`| \`${key}\` | ${shapeOf(value)}${needed} | ${value.says ?? ""} |`);
    const found = inner(value);
    if (found) deeper.push([`${name === "the sheet" ? "" : `${name}.`}${key}${found.suffix}`, found.schema]);
  }
  lines.push("");
  for (const [path, below] of deeper) keyTables(below, path, lines);
}

function functionTable(family: Signature["family"]): string[] {
  return SIGNATURES.filter((signature) => signature.family === family).map(
    (signature) => `| \`${writeSignature(signature)}\` | ${signature.says} | \`${signature.example}\` |`,
  );
}

/** The reference in docs/language.md, made from the same sources that check sheets. */
export function languageReference(): string {
  const lines = [
    "# The language, key by key",
    "",
    "Made from the schema by which sheets are checked; not edited by hand.",
    "",
    "## Keys",
    "",
  ];
  keyTables(sheetJsonSchema(), "the sheet", lines);
  lines.push(
    "## Functions of formulas",
    "",
    `${FUNCTION_NAMES.length} functions. A name followed by \`(\` is a call, ` +
      "otherwise a column; what cannot be read or computed is *missing*.",
    "",
  );
  for (const family of [
    "numbers",
    "text",
    "kinds",
    "calendar",
    "bins",
    "rows in order",
    "place",
    "choice",
    "aggregates",
    "draws",
  ] as const)
    lines.push(`### ${family}`, "", "| function | gives | example |", "|---|---|---|", ...functionTable(family), "");
  lines.push(
    "## Links",
    "",
    "`GESTURE on SOURCE [by COLUMNS] [as NAME] -> EFFECT TARGETS[, EFFECT TARGETS]`, or `cross-filter TABLE`.",
    "",
    `Gestures: ${GESTURES.map((word) => `\`${word}\``).join(", ")}. Effects: ` +
      `${EFFECTS.map((word) => `\`${word}\``).join(", ")}. \`all\` means every other chart of the table's family.`,
    "",
  );
  return `${lines.join("\n")}`;
}
