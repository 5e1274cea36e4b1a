import { type Compiled, type CompileInput, compile } from "../../core/compile/compile";
import { checkFormula } from "../../core/formula/check";
import { evaluate, frameOf, rowsWhere } from "../../core/formula/evaluate";
import { writer } from "../../core/formula/format";
import { parseFormula } from "../../core/formula/parse";
import { intakeChanges } from "../../core/read/intake-check";
import { type Column, kindOf, valueAt } from "../../core/table/column";
import { rowsWith } from "../../core/table/search";
import { kindsOf, type Table } from "../../core/table/table";
import { withUnparted } from "../../core/table/unparted";
import type { IntakeReply, RowsReply, Sought, Tried } from "./reply";

/** Rows of a table that are shown of something that is only tried. */
const SAMPLE = 7;

/** A geometry in a few words; its text would fill the screen. */
function placeWords(text: string): string {
  const type = /"type":"(\w+)"/.exec(text)?.[1] ?? "place";
  const positions = text.match(/\[-\d.eE+]+,[-\d.eE+,]+\]/g)?.length ?? 0;
  return positions > 1 ? `${type}, ${positions} positions` : type;
}

/** Writes a cell as the table shows it. */
export function cellWriter(table: Table, name: string): (row: number) => string {
  const column = table.columns.get(name) as Column;
  if (column.kind === "text") {
    if (!column.place) return (row) => (valueAt(column, row) as string | null) ?? "";
    const words = column.dictionary.map(placeWords);
    return (row) => words[column.codes[row] as number] ?? "";
  }
  if (column.kind === "boolean") return (row) => ({ 1: "true", 0: "false" })[column.values[row] as number] ?? "";
  const { format, unparted } = withUnparted(table).info.get(name) ?? {};
  // Raw numbers are looked at to the last place that says something; charts round them.
  const plain = column.kind === "number" ? (unparted ? "d" : ",.6~f") : undefined;
  const write = writer(column.kind, format ?? plain);
  return (row) => (Number.isNaN(column.values[row]) ? "" : write(column.values[row] as number));
}

export function writtenRows(
  table: Table,
  from: number,
  to: number,
  sought: Int32Array | string | undefined,
): RowsReply {
  const chosen = typeof sought === "string" ? new Int32Array(0) : sought;
  const rowCount = chosen ? chosen.length : table.rowCount;
  const writers = [...table.columns.keys()].map((name) => cellWriter(table, name));
  const rows: string[][] = [];
  for (let at = from; at < Math.min(to, rowCount); at++)
    rows.push(writers.map((write) => write(chosen ? (chosen[at] as number) : at)));
  return { rowCount, rows };
}

/** The last few choices of rows; scrolling through them asks for the same again and again. */
const found = new WeakMap<Table["columns"], Map<string, Int32Array | string>>();

/** Rows that are sought, or why they cannot be found. */
export function soughtRows(
  name: string,
  table: Table,
  sought: Sought,
  onTheWay: (way: NonNullable<Sought["way"]>) => Int32Array,
): Int32Array | string {
  const known = found.get(table.columns) ?? new Map<string, Int32Array | string>();
  found.set(table.columns, known);
  // A chart may change while its table stays.
  if (sought.way) return seek(name, table, sought, onTheWay(sought.way));
  const key = JSON.stringify([sought.text ?? "", sought.where ?? ""]);
  let rows = known.get(key);
  if (rows === undefined) {
    rows = seek(name, table, sought);
    if (known.size > 3) known.delete(known.keys().next().value as string);
    known.set(key, rows);
  }
  return rows;
}

function seek(name: string, table: Table, { text, where }: Sought, among?: Int32Array): Int32Array | string {
  let rows = among;
  if (where) {
    const parsed = parseFormula(where);
    if (!parsed.ok) return parsed.problem.message;
    const checked = checkFormula(parsed.value.formula, {
      columns: kindsOf(table),
      settings: new Map(),
      tableName: name,
      aggregates: "allowed",
    });
    if (checked.problems[0]) return checked.problems[0].message;
    if (checked.kind !== "boolean") return "this is neither true nor false";
    const { rows: fitting } = rowsWhere(evaluate(parsed.value.formula, frameOf(table)), table.rowCount);
    rows = among ? both(among, fitting) : fitting;
  }
  if (!text?.trim()) return rows ?? new Int32Array(0);
  const holding = rowsWith(table, text, (column) => cellWriter(table, column));
  return rows ? both(rows, holding) : holding;
}

function both(rows: Int32Array, others: Int32Array): Int32Array {
  const own = new Set(others);
  return rows.filter((row) => own.has(row));
}

/** The values of a column of texts or truths with their rows, the most frequent first; missing last. */
export function valuesOf(table: Table, name: string): { value: string; rows: number }[] {
  const column = table.columns.get(name);
  if (!column) return [];
  const write = cellWriter(table, name);
  const counts = new Map<string, number>();
  for (let row = 0; row < table.rowCount; row++) {
    const value = write(row);
    counts.set(value, (counts.get(value) ?? 0) + 1);
    if (counts.size > 2000) break;
  }
  return [...counts]
    .map(([value, rows]) => ({ value, rows }))
    .sort((a, b) => Number(a.value === "") - Number(b.value === "") || b.rows - a.rows || (a.value < b.value ? -1 : 1));
}

const problemsOf = ({ findings }: Compiled, table: string) =>
  findings
    .filter(
      ({ severity, piece, span }) =>
        severity === "error" && (piece === `tables.${table}` || (piece === undefined && span !== undefined)),
    )
    .map(({ message }) => message);

/** Compiles a sheet that is only tried and says what a table is at a stage. */
export function tryTable(input: CompileInput, name: string, stage: number): Tried {
  const compiled = compile(input);
  const stages = compiled.stages.get(name);
  const table = stages?.tables[stage];
  const problems = problemsOf(compiled, name);
  if (!stages || !table)
    return { rowCount: 0, columns: [], rows: [], problems: problems.length ? problems : ["this cannot be done here"] };
  const line = stage > 0 ? stages.ledger[stage - 1] : undefined;
  const { rows } = writtenRows(table, 0, SAMPLE, undefined);
  // What is wrong further down does not speak of this step.
  const own = stages.brokenStep === undefined || stages.brokenStep < stage ? problems : [];
  return {
    rowCount: table.rowCount,
    columns: [...table.columns].map(([column, values]) => ({ name: column, kind: kindOf(values), samples: [] })),
    rows,
    problems: own,
    ...(line ? { line } : {}),
    ...(stages.report ? { report: stages.report } : {}),
  };
}

/** For every table that a file goes into: what is not as it was, and what the sheet would have to say to that. */
export function checkIntake(now: CompileInput, then: CompileInput, path: string): IntakeReply[] {
  const [before, after] = [compile(now), compile(then)];
  const known = new Set(before.findings.map(({ code, message }) => `${code} ${message}`));
  const findings = after.findings
    .filter(({ severity, code, message }) => severity !== "advice" && !known.has(`${code} ${message}`))
    .map(({ message }) => message);
  const reading = [...after.sheet.tables].filter(([, spec]) => spec.read === path);
  return reading.flatMap(([table]) => {
    const [old, fresh] = [before.stages.get(table)?.tables[0], after.stages.get(table)?.tables[0]];
    if (!old) return [];
    const changes = fresh
      ? intakeChanges(old, fresh)
      : [{ what: "rows" as const, says: "nothing of it can be read", grave: true }];
    return [{ table, before: old.rowCount, after: fresh?.rowCount ?? 0, changes, findings }];
  });
}
