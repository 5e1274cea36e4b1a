import type { Finding } from "../finding/finding";
import { placeOf } from "../finding/place";
import { flattened, isMap, type Json, type JsonMap } from "./flatten";
import { readGeoJson } from "./geojson";
import { withExactIntegers } from "./json-numbers";
import { jsonProblemAt } from "./json-place";
import { headNames, type ReadOptions, type ReadResult, tableOfTexts } from "./texts";

const isRows = (value: Json | undefined): value is JsonMap[] =>
  Array.isArray(value) && value.length > 0 && value.every(isMap);

/** One JSON value a line; answers nothing if the text is not that. */
function readLines(text: string): { rows: JsonMap[]; broken: number[] } | undefined {
  const rows: JsonMap[] = [];
  const broken: number[] = [];
  for (const [at, line] of text.split("\n").entries()) {
    if (line.trim() === "") continue;
    let value: Json | undefined;
    try {
      value = JSON.parse(line) as Json;
    } catch {
      value = undefined;
    }
    if (isMap(value)) rows.push(value);
    else if (rows.length === 0) return undefined;
    else broken.push(at + 1);
  }
  return rows.length ? { rows, broken } : undefined;
}

/** What is said while rows are looked for. */
interface Said {
  file: string;
  notes: string[];
  findings: Finding[];
}

function refuse({ file, findings }: Said, code: string, message: string): undefined {
  findings.push({ code, severity: "error", file, message: `${file} ${message}` });
}

/** A text that is not one JSON value: one a line, or why it cannot be read. */
function rowsOfLines(text: string, exact: string, said: Said): JsonMap[] | undefined {
  const lines = readLines(exact);
  if (!lines) {
    const { line, column } = placeOf(text, jsonProblemAt(text));
    const where = `line ${line}, column ${column}`;
    return refuse(said, "bad-json", `cannot be read as JSON: ${where} does not fit what stands before it`);
  }
  const { rows, broken } = lines;
  const { file, findings } = said;
  if (broken.length) {
    const message =
      `${file}: ${broken.length} lines are no JSON objects and were ` +
      `left out, such as line ${broken.slice(0, 3).join(", ")}`;
    findings.push({ code: "bad-json-lines", severity: "warning", file, message });
  }
  return rows;
}

/** The rows of an object of lists, one a column. Columns that no row has are named in `columns`. */
function rowsOfColumns(lists: readonly [string, Json[]][], notes: string[], columns: string[]): JsonMap[] {
  const length = Math.max(...lists.map(([, list]) => list.length));
  if (lists.some(([, list]) => list.length !== length))
    notes.push("its lists are not equally long; what is not there is missing");
  if (length === 0) columns.push(...lists.map(([name]) => name));
  return Array.from({ length }, (_, row) => Object.fromEntries(lists.map(([name, list]) => [name, list[row] ?? null])));
}

/**
 * The rows of a JSON text in one of its usual shapes, or why it has none. Columns that no row has are named in
 * `columns`.
 */
function rowsOf(text: string, said: Said, columns: string[]): JsonMap[] | undefined {
  let whole: Json;
  const exact = withExactIntegers(text);
  try {
    whole = JSON.parse(exact) as Json;
  } catch {
    return rowsOfLines(text, exact, said);
  }
  if (isRows(whole)) return whole;
  if (Array.isArray(whole) && whole.length === 0)
    return refuse(said, "empty-file", "holds an empty list; a list of objects is expected");
  if (Array.isArray(whole)) {
    const what = isMap(whole[0]) ? "objects and other things" : "plain values";
    return refuse(said, "json-shape", `holds a list of ${what}; a list of objects is expected, one for each row`);
  }
  if (!isMap(whole))
    return refuse(said, "json-shape", "holds a single value; a list of objects is expected, or an object of lists");
  const entries = Object.entries(whole);
  const lists = entries.filter((entry): entry is [string, Json[]] => Array.isArray(entry[1]));
  const isPlain = lists.length === entries.length && lists.every(([, list]) => !list.some((value) => isMap(value)));
  if (lists.length > 0 && isPlain) return rowsOfColumns(lists, said.notes, columns);
  const inner = lists.filter(([, list]) => isRows(list));
  const only = inner[0];
  if (inner.length === 1 && only) {
    said.notes.push(`the rows were found under "${only[0]}"`);
    return only[1] as JsonMap[];
  }
  // One object in a file is one row.
  if (lists.length === 0) return [whole];
  return refuse(said, "json-shape", `holds ${inner.length} lists of objects; a table is one list`);
}

/**
 * Reads JSON: a list of objects, an object of lists, or one object a line; lists of plain values
 * become one text, parted by commas. GeoJSON is known by its type and read as features.
 */
export function readJson(file: string, text: string, options: ReadOptions = {}): ReadResult {
  const notes: string[] = [];
  const findings: Finding[] = [];
  const clean = text.replace(/^\ufeff/, "");
  if (/"type"\s*:\s*"(?:FeatureCollection|Feature)"/.test(clean.slice(0, 2000)))
    return readGeoJson(file, clean, options);
  const empty: string[] = [];
  const rows = rowsOf(clean, { file, notes, findings }, empty) ?? [];
  const columns = flattened(rows, notes, options);
  for (const name of empty) columns.set(name, []);
  if (rows.length && columns.size === 0)
    findings.push({ code: "empty-file", severity: "error", file, message: `${file} holds objects without keys` });
  return tableOfTexts(
    file,
    headNames([...columns.keys()], notes),
    [...columns.values()],
    rows.length,
    notes,
    findings,
    options,
  );
}
