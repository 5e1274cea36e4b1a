import { ownOf } from "../../finding/own";
import { signatureOf, writeSignature } from "../../formula/signatures";
import { keysAt, schemasAt } from "../issues";
import { type JsonSchema, shapeOf, sheetJsonSchema } from "../reference";
import { topSchema } from "../schema";
import type { Path } from "../tree";
import type { Stretch } from "./anatomy";
import type { Knowledge } from "./knowledge";
import { columnsAt } from "./scope-at";

/** The keys that the map at a path may have. */
export function keysOf(path: Path): string[] {
  return [...new Set(keysAt(topSchema, path))];
}

/** The fixed words that a value at a path may be. */
export function wordsAt(path: Path): string[] {
  return schemasAt(topSchema, path).flatMap((schema) => {
    const def = schema._zod.def as unknown as { type: string; entries?: Record<string, string> };
    return def.type === "enum" ? Object.keys(def.entries ?? {}) : [];
  });
}

let whole: JsonSchema | undefined;

function jsonAt(schema: JsonSchema | undefined, path: Path): JsonSchema | undefined {
  if (!schema || path.length === 0) return schema;
  if (schema.anyOf) return schema.anyOf.map((branch) => jsonAt(branch, path)).find((found) => found !== undefined);
  const [head, ...rest] = path;
  if (typeof head === "number") return jsonAt(schema.items, rest);
  const below =
    ownOf(schema.properties ?? {}, String(head)) ??
    (typeof schema.additionalProperties === "object" ? schema.additionalProperties : undefined);
  return jsonAt(below, rest);
}

/** Help of the key in which a path ends: a sentence, and what it takes. */
export function keyHelp(path: Path): { says?: string; takes: string } | undefined {
  whole ??= sheetJsonSchema();
  const found = jsonAt(whole, path);
  if (!found) return undefined;
  return { ...(found.says === undefined ? {} : { says: found.says }), takes: shapeOf(found).replaceAll("`", "") };
}

/** Help for a stretch of the sheet: a head such as a signature, and a sentence or two. */
export interface Help {
  head: string;
  lines: string[];
}

/** What is to be said of a stretch when it is asked about; nothing where there is nothing to say. */
export function helpFor(text: string, stretch: Stretch, knowledge: Knowledge): Help | undefined {
  const word = text.slice(stretch.start, stretch.end);
  if (stretch.part === "key") {
    const help = keyHelp(stretch.path);
    return help && { head: `${word}: ${help.takes}`, lines: help.says ? [help.says] : [] };
  }
  if (stretch.part === "function") {
    const signature = signatureOf(word);
    return signature && { head: writeSignature(signature), lines: [signature.says, `Example: ${signature.example}`] };
  }
  if (stretch.part === "column" || (stretch.part === "plain" && stretch.path.length > 2)) {
    const name = word.replace(/^`|`$/g, "");
    const column = columnsAt(text, stretch.path, knowledge).find((one) => one.name === name);
    return (
      column && {
        head: `${column.name}: ${column.kind}${column.unit ? `, ${column.unit}` : ""}`,
        lines: column.samples.length ? [`such as ${column.samples.join(" · ")}`] : [],
      }
    );
  }
  if (stretch.part === "setting")
    return { head: word, lines: ["A setting: the value that readers give it with its control."] };
  if (stretch.part === "name") {
    const stages = knowledge.tables.get(word);
    if (stages) return { head: `${word}: table`, lines: [`${stages.at(-1)?.length ?? 0} columns after its steps`] };
  }
  return undefined;
}
