import { readFileSync } from "node:fs";
import { expect, test } from "vitest";
import { languageReference, publishedSchema, sheetJsonSchema } from "./reference";

test("docs/language.md is what the schema says now (made by tools/make-docs.ts)", () => {
  expect(readFileSync("docs/language.md", "utf8") === languageReference()).toBe(true);
});

test("every key of the language has its help", () => {
  const missing: string[] = [];
  const look = (schema: ReturnType<typeof sheetJsonSchema>, path: string) => {
    for (const [key, value] of Object.entries(schema.properties ?? {})) {
      const says = value.says ?? value.anyOf?.find((option) => option.says)?.says ?? value.items?.says;
      if (!says && !["x", "y", "scale", "range", "fade", "only"].includes(key)) missing.push(`${path}.${key}`);
      look(value, `${path}.${key}`);
      for (const option of value.anyOf ?? []) look(option, `${path}.${key}`);
      if (value.items) look(value.items, `${path}.${key}[]`);
      if (typeof value.additionalProperties === "object") look(value.additionalProperties, `${path}.${key}.NAME`);
    }
  };
  look(sheetJsonSchema(), "");
  expect(missing).toEqual([]);
});

test("docs/sheet.schema.json is the schema, and takes numbers and switches as YAML reads them", () => {
  expect(JSON.parse(readFileSync("docs/sheet.schema.json", "utf8"))).toEqual(
    JSON.parse(JSON.stringify(publishedSchema())),
  );
  const { properties } = publishedSchema() as { properties: Record<string, Record<string, unknown>> };
  expect(properties.still?.enum).toEqual(["1", 1]);
  expect(properties.report?.type).toEqual(["string", "number", "boolean"]);
});
