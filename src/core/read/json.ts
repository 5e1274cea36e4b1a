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

/**
 * The rows of a JSON text in one of its usual shapes, or why it has none. Columns that no row has are named in
 * `columns`.
 */
function rowsOf(
  file: string,
  text: string,
  notes: string[],
  findings: Finding[],
  columns: string[],
): JsonMap[] | undefined {
  const refuse = (code: string, message: string) => {
    findings.push({ code, severity: "error", file, message });
    return undefined;
  };
  let whole: Json;
  const exact = withExactIntegers(text);
  try {
    whole = JSON.parse(exact) as Json;
  } catch {
    const lines = readLines(exact);
    if (!lines) {
      const { line, column } = placeOf(text, jsonProblemAt(text));
      return refuse(
        "bad-json",
        `${file} cannot be read as JSON: line ${line}, column ${column} does not fit what stands before it`,
      );
    }
    if (lines.broken.length)
      findings.push({
        code: "bad-json-lines",
        severity: "warning",
        file,
        message: `${file}: ${lines.broken.length} lines are no JSON objects and were left out, such as line ${lines.broken.slice(0, 3).join(", ")}`,
      });
    return lines.rows;
  }
  if (isRows(whole)) return whole;
  if (Array.isArray(whole))
    return whole.length === 0
      ? refuse("empty-file", `${file} holds an empty list; a list of objects is expected`)
      : refuse(
          "json-shape",
          `${file} holds a list of ${isMap(whole[0]) ? "objects and other things" : "plain values"}; a list of objects is expected, one for each row`,
        );
  if (!isMap(whole))
    return refuse("json-shape", `${file} holds a single value; a list of objects is expected, or an object of lists`);
  const entries = Object.entries(whole);
  const lists = entries.filter((entry): entry is [string, Json[]] => Array.isArray(entry[1]));
  const plain = lists.length === entries.length && lists.every(([, list]) => !list.some((value) => isMap(value)));
  if (lists.length > 0 && plain) {
    const length = Math.max(...lists.map(([, list]) => list.length));
    if (lists.some(([, list]) => list.length !== length))
      notes.push("its lists are not equally long; what is not there is missing");
    if (length === 0) columns.push(...lists.map(([name]) => name));
    return Array.from({ length }, (_, row) =>
      Object.fromEntries(lists.map(([name, list]) => [name, list[row] ?? null])),
    );
  }
  const inner = lists.filter(([, list]) => isRows(list));
  const only = inner[0];
  if (inner.length === 1 && only) {
    notes.push(`the rows were found under "${only[0]}"`);
    return only[1] as JsonMap[];
  }
  // One object in a file is one row.
  return lists.length === 0
    ? [whole]
    : refuse("json-shape", `${file} holds ${inner.length} lists of objects; a table is one list`);
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
  const rows = rowsOf(file, clean, notes, findings, empty) ?? [];
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
