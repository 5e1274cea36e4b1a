import { writeName } from "../formula/words";
import { writeLiteral } from "../formula/written";
import { insertStep } from "../sheet/edit/step-edit";
import type { TableSpec } from "../sheet/schema-tables";
import type { TextColumn } from "../table/column";
import type { Table } from "../table/table";
import type { Compiling } from "./compiling";

/** Among more values than these nobody tells them apart by eye, and a chart of them is not drawn. */
const MOST_VALUES = 500;
/** More spellings than these are mended one by one nowhere but in the table itself. */
const MOST_MENDED = 3;

/** One spelling of a value beside another that has more rows. */
interface Alike {
  spelling: string;
  rows: number;
  beside: string;
}

const known = new WeakMap<Int32Array, Alike[]>();

const folded = (text: string): string => text.trim().replace(/\s+/g, " ").toLowerCase();

/**
 * Values that differ in blanks or capitals alone, each beside the one of them that has the most rows; none of them is to
 * have blanks at its ends, if one has not.
 */
function alikeIn({ dictionary, codes }: TextColumn): Alike[] {
  const found = known.get(codes);
  if (found) return found;
  const alike: Alike[] = [];
  known.set(codes, alike);
  const names = dictionary.map(folded);
  if (new Set(names).size === names.length) return alike;
  const rows = new Float64Array(dictionary.length);
  for (const code of codes) if (code >= 0) rows[code] = (rows[code] as number) + 1;
  const isBare = (code: number) => Number(dictionary[code] === dictionary[code]?.trim());
  const most = new Map<string, number>();
  names.forEach((name, code) => {
    const best = most.get(name);
    const isBetter = (than: number) => isBare(code) - isBare(than) || (rows[code] as number) - (rows[than] as number);
    if (rows[code] && (best === undefined || isBetter(best) > 0)) most.set(name, code);
  });
  names.forEach((name, code) => {
    const best = most.get(name);
    if (best !== undefined && best !== code && rows[code])
      alike.push({
        spelling: dictionary[code] as string,
        rows: rows[code] as number,
        beside: dictionary[best] as string,
      });
  });
  return alike;
}

/** The formula that makes one value of all its spellings; nothing where they are too many to be named. */
function mending(column: string, alike: readonly Alike[]): string | undefined {
  const name = writeName(column);
  if (alike.every(({ spelling, beside }) => spelling.trim() === beside.trim())) return `trim(${name})`;
  if (alike.length > MOST_MENDED) return undefined;
  const text = (value: string) => writeLiteral("text", value);
  return alike.reduce(
    (rest, { spelling, beside }) => `if(${name} = ${text(spelling)}, ${text(beside)}, ${rest})`,
    name,
  );
}

/** Points out values of a column that readers would see twice under what looks like one name. */
export function adviseAlike({ sheet, findings }: Compiling, name: string, { steps = [] }: TableSpec, table: Table) {
  const span = sheet.source.keySpan(["tables", name]);
  for (const [column, values] of table.columns) {
    // Texts of which nearly each row has its own are no names of anything.
    if (values.kind !== "text" || values.dictionary.length > Math.min(MOST_VALUES, table.rowCount / 2)) continue;
    const alike = alikeIn(values);
    const [first] = alike;
    if (!first) continue;
    const formula = mending(column, alike);
    const edits = formula && insertStep(sheet.source.text, name, steps.length, { add: { [column]: formula } });
    const more = alike.length > 1 ? `, and ${alike.length - 1} more such values` : "";
    const { spelling, rows, beside } = first;
    findings.push({
      code: "alike-values",
      severity: "advice",
      message:
        `${column} has ${JSON.stringify(spelling)} in ${rows} ${rows === 1 ? "row" : "rows"} ` +
        `beside ${JSON.stringify(beside)}${more}; they differ in blanks or capitals alone`,
      piece: `tables.${name}`,
      ...(span ? { span } : {}),
      ...(edits ? { fix: { title: `add a step that makes one of them: ${formula}`, edits } } : {}),
    });
  }
}
