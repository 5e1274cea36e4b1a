import type { LiveWords } from "../chart/words";
import type { PlanPiece } from "../plan/plan";
import type { Channel } from "../query/query";
import type { NoteSpec } from "../sheet/schema-pages";
import { capital, plainName } from "../table/column-names";
import { readChannel, spaced } from "./channels";
import { addFinding, type BuiltTable, type Compiling } from "./compiling";
import { LiveReader, namedPart } from "./live-words";
import { unknownTable } from "./unknown-table";

/** Checks a note; nothing where its values cannot be told. */
export function readNote(compiling: Compiling, name: string, spec: NoteSpec): PlanPiece | undefined {
  const path = ["notes", name];
  const built = spec.from === undefined ? undefined : compiling.tables.get(spec.from);
  if (spec.from !== undefined && !built) {
    if (!compiling.sheet.tables.has(spec.from) && !compiling.sheet.broken.has(`tables.${spec.from}`))
      unknownTable(compiling, [...path, "from"], spec.from, name);
    return undefined;
  }
  if (built) compiling.used.add(`tables.${built.name}`);
  const channels = readValues(compiling, name, spec, built);
  if (!channels) return undefined;
  const live = readLive(compiling, name, spec, built, channels);
  if (live === null) return undefined;
  const from = built?.name ?? "";
  const query = { from, channels, groupBy: [], grouped: true };
  const words = { title: capital(spaced(name)), untitled: true as const };
  return { name, words, ...(live ? { live } : {}), plan: { type: "note", from, query, text: spec.text } };
}

/**
 * What stands in the braces of a note beside the names under `get`: a setting, what a selection holds, a formula
 * over the note's table. `null` where one is found wrong.
 */
function readLive(
  compiling: Compiling,
  name: string,
  { text }: NoteSpec,
  built: BuiltTable | undefined,
  channels: Readonly<Record<string, Channel>>,
): LiveWords | null | undefined {
  const path = ["notes", name];
  const reader = new LiveReader({ compiling, name, path, ...(built ? { built } : {}) }, undefined);
  for (const [, inside] of text.matchAll(/\{([^{}]*)\}/g)) {
    const wanted = (inside as string).trim();
    if (Object.hasOwn(channels, wanted)) continue;
    if (/^[A-Za-z_]\w*$/.test(wanted) || (!built && namedPart(compiling, wanted) === undefined)) {
      addFinding(
        compiling,
        [...path, "text"],
        "unknown-name",
        `{${inside}} is none of the names under get:; write get: ` +
          `{${plainName(wanted)}: sum(tonnes)} or another formula`,
        { piece: name },
      );
      return null;
    }
    reader.read(wanted, `{${wanted}}`, [...path, "text"]);
  }
  return reader.done();
}

/** The values that stand in a note, each one number or word over the rows that are left. */
function readValues(
  compiling: Compiling,
  name: string,
  spec: NoteSpec,
  built: BuiltTable | undefined,
): Record<string, Channel> | undefined {
  const channels: Record<string, Channel> = {};
  for (const [key, text] of Object.entries(spec.get ?? {})) {
    const path = ["notes", name, "get", key];
    if (!built) {
      addFinding(compiling, path, "key-missing", "values in a note need from: and the name of their table", {
        piece: name,
      });
      return undefined;
    }
    const read = readChannel({ compiling, path, tableName: built.name, table: built.table, piece: name }, text);
    if (!read) return undefined;
    if (!read.channel.aggregate && !read.checked.constant) {
      addFinding(
        compiling,
        path,
        "bare-column",
        `${read.channel.text} has one value a row; in words take sum(), mean(), first() or another aggregate`,
        { piece: name },
      );
      return undefined;
    }
    channels[key] = { ...read.channel, aggregate: true };
  }
  return channels;
}
