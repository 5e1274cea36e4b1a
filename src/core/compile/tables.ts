import { writeFix } from "../finding/finding";
import { TooLarge } from "../finding/limits";
import { listed, nearest } from "../finding/nearest";
import type { Ties } from "../link/lineage";
import type { ColumnWish } from "../read/infer";
import { decimalOf } from "../read/numbers";
import type { ColumnSpec, TableSpec } from "../sheet/schema-tables";
import type { Path } from "../sheet/tree";
import { nameBefore } from "../steps/name-before";
import { tablesOfStep } from "../steps/run";
import type { Step, StepContext, StepResult } from "../steps/step";
import type { Kind } from "../table/column";
import type { ColumnInfo, Table } from "../table/table";
import { timeReader } from "../table/time-text";
import { withUnparted } from "../table/unparted";
import { wordPairIn } from "../table/word-pair";
import { adviseAlike } from "./alike-values";
import { formatProblem } from "./channels";
import { chosenTable } from "./chosen-table";
import {
  addFinding,
  type BuiltTable,
  type Compiling,
  followsSettings,
  stepContext,
  type TableStages,
} from "./compiling";
import { followTable, redrawsOf, tablesOfSettings } from "./controls/settings";
import { onlyEdition } from "./editions";
import { readSource, type Source } from "./sources";
import { readyStep, usesSettings } from "./steps";
import { unknownTable } from "./unknown-table";

/** Reads and runs all tables of the sheet, each after the one it is made from. */
export function buildTables(compiling: Compiling) {
  const { sheet } = compiling;
  const building = new Set<string>();
  // A table that could not be built is asked for by several; what is wrong with it is said once.
  const failed = new Set<string>();
  const build = (name: string, asked: Path = ["tables", name, "from"]): BuiltTable | undefined => {
    const known = compiling.tables.get(name);
    if (known) return known;
    if (failed.has(name)) return undefined;
    const spec = sheet.tables.get(name);
    if (!spec) return undefined;
    if (building.has(name)) {
      addFinding(
        compiling,
        asked,
        "cycle",
        `${[...building, name].join(" is made from ")}: a table cannot be made from itself`,
        { piece: `tables.${name}` },
      );
      return undefined;
    }
    building.add(name);
    const built = buildTable(compiling, name, spec, build);
    building.delete(name);
    if (built) {
      compiling.tables.set(name, built);
      followTable(compiling, name);
    } else {
      failed.add(name);
      sheet.broken.add(`tables.${name}`);
    }
    return built;
  };
  // What a setting may be must be known before formulas speak of it.
  for (const name of tablesOfSettings(compiling)) build(name);
  for (const name of sheet.tables.keys()) build(name);
}

type Build = (name: string, asked?: Path) => BuiltTable | undefined;

/** Another table that a table is made from, looks up in or stacks; built first where it was not yet. */
function otherTable(
  compiling: Compiling,
  name: string,
  build: Build,
  wanted: string,
  path: Path,
): BuiltTable | undefined {
  const { sheet } = compiling;
  const other = sheet.tables.has(wanted) ? build(wanted, path) : undefined;
  if (other) compiling.used.add(`tables.${wanted}`);
  else if (!sheet.tables.has(wanted) && !sheet.broken.has(`tables.${wanted}`))
    unknownTable(compiling, path, wanted, `tables.${name}`);
  else waitsFor(compiling, path, wanted, name);
  return other;
}

/** A table that is broken keeps others waiting; said where they ask for it, unless they say something else already. */
function waitsFor(compiling: Compiling, path: Path, wanted: string, name: string) {
  if (path.at(-1) === "from") return;
  addFinding(compiling, path, "broken-table", `the table ${wanted} has something to mend first`, {
    piece: `tables.${name}`,
  });
}

/** The rows with which a table begins, and steps that choose among tables; these stand in no line of the ledger. */
function beginning(
  compiling: Compiling,
  name: string,
  spec: TableSpec,
  build: Build,
  wishes: Map<string, ColumnWish>,
): { start: Source; first: Step[] } | undefined {
  const from = ["tables", name, "from"];
  const other = (wanted: string) => otherTable(compiling, name, build, wanted, from)?.table;
  if (spec.from?.startsWith("$")) {
    const chosen = chosenTable(compiling, name, spec.from.slice(1), other);
    if (!chosen) return undefined;
    compiling.sourceTables.set(name, chosen.whole);
    return { start: { table: chosen.table }, first: chosen.steps };
  }
  if (spec.from === undefined) {
    const start = readSource(compiling, name, spec, wishes);
    return start && { start, first: [] };
  }
  const table = other(spec.from);
  return table && { start: { table }, first: [] };
}

function buildTable(compiling: Compiling, name: string, spec: TableSpec, build: Build): BuiltTable | undefined {
  const { wishes, info } = columnWishes(compiling, name, spec);
  const begun = beginning(compiling, name, spec, build, wishes);
  if (!begun) return undefined;
  const { start, first } = begun;
  const { edition } = compiling;
  const own = edition?.table === name ? onlyEdition(start.table, edition) : start.table;
  const whole: Table = { ...own, info: mergeInfo(own.info, info) };
  if (first.length === 0) compiling.sourceTables.set(name, whole);
  const stages: TableStages = { name, tables: [whole], ledger: [], ...(start.report ? { report: start.report } : {}) };
  compiling.stages.set(name, stages);
  const made = runSteps(compiling, name, spec, build, stages);
  if (!made) return undefined;
  const steps = [...first, ...made.steps];
  const table = withUnparted(made.table);
  checkColumnNames(compiling, name, spec, stages.tables);
  checkReadings(compiling, name, spec, stages.tables, steps);
  checkFormats(compiling, name, spec, table);
  if (spec.from === undefined) adviseAlike(compiling, name, spec, table);
  const readsFollowing = (step: Step) => tablesOfStep(step).some((other) => followsSettings(compiling, other));
  return {
    name,
    spec,
    table,
    steps,
    ledger: stages.ledger,
    wishes,
    usesSettings: steps.some((step) => usesSettings(step) || readsFollowing(step)),
    ties: made.ties,
    ...(spec.from === undefined || first.length ? {} : { from: spec.from }),
    ...(start.report ? { report: start.report } : {}),
  };
}

/**
 * Runs the steps of a table over its first stage, and takes down what each made and lost; nothing where one is
 * broken.
 */
function runSteps(
  compiling: Compiling,
  name: string,
  spec: TableSpec,
  build: Build,
  stages: TableStages,
): { table: Table; steps: Step[]; ties: Ties } | undefined {
  let table = stages.tables[0] as Table;
  let ties: Ties = new Map();
  let draws = 0;
  const steps: Step[] = [];
  const context = stepContext(compiling);
  const beside = {
    compiling,
    tableName: name,
    other: (wanted: string, asked: Path) => otherTable(compiling, name, build, wanted, asked)?.table,
    seed: spec.make?.seed ?? 1,
    redraws: redrawsOf(compiling, name),
    nextDraw: () => draws++,
  };
  for (const [at, stepSpec] of (spec.steps ?? []).entries()) {
    const path = ["tables", name, "steps", at];
    const ready = readyStep({ ...beside, path, table }, stepSpec);
    const result = ready && (stepSpec.off ? "off" : stepResult(compiling, path, ready.step, table, context, name));
    if (!ready || !result) {
      stages.brokenStep = at;
      return undefined;
    }
    const why = stepSpec.why === undefined ? {} : { why: stepSpec.why };
    const line = { step: ready.text, rowsIn: table.rowCount };
    if (result === "off") {
      addFinding(compiling, [...path, "off"], "step-off", `the step "${ready.text}" of ${name} is switched off`, {
        severity: "warning",
        piece: `tables.${name}`,
      });
      stages.ledger.push({ ...line, rowsOut: table.rowCount, losses: [], off: true, ...why });
    } else {
      const { losses, notes } = result;
      stages.ledger.push({ ...line, rowsOut: result.table.rowCount, losses, ...(notes ? { notes } : {}), ...why });
      steps.push(ready.step);
      ties = compiling.cache.ties(result, ties);
      table = result.table;
    }
    stages.tables.push(table);
  }
  return { table, steps, ties };
}

/** What a step gives; one whose result would be too large is a finding, and the steps below it wait. */
function stepResult(
  compiling: Compiling,
  path: Path,
  step: Step,
  table: Table,
  context: StepContext,
  name: string,
): StepResult | undefined {
  try {
    return compiling.cache.step(step, table, context);
  } catch (fault) {
    if (!(fault instanceof TooLarge)) throw fault;
    addFinding(compiling, path, "too-large", fault.message, { piece: `tables.${name}` });
    return undefined;
  }
}

function mergeInfo(
  inherited: ReadonlyMap<string, ColumnInfo>,
  own: ReadonlyMap<string, ColumnInfo>,
): Map<string, ColumnInfo> {
  const merged = new Map(inherited);
  for (const [name, info] of own) merged.set(name, { ...merged.get(name), ...info });
  return merged;
}

const asMap = (spec: ColumnSpec | string): ColumnSpec =>
  typeof spec === "string" ? ({ type: spec } as ColumnSpec) : spec;

/** The kind of a column of which only is said how its text is read. */
const kindOfRead = (read: string): Kind =>
  read.includes("%") ? "datetime" : wordPairIn(read) && !/\d/.test(read) ? "boolean" : "number";

/** What is wrong with how the text of a column is to be read: code and message of a finding. */
function readProblem(kind: Kind, read: string): [code: string, message: string] | undefined {
  if (kind === "number")
    return decimalOf(read) === undefined
      ? ["wrong-format", `for numbers read: is an example with their marks, such as "1.234,5" or "1,234.5"`]
      : undefined;
  if (kind === "boolean")
    return wordPairIn(read)
      ? undefined
      : ["wrong-format", `for a boolean read: is the word for true and the one for false, such as "yes/no"`];
  if (kind !== "date" && kind !== "datetime" && kind !== "duration")
    return ["wrong-value", `read: is for numbers, dates, datetimes, durations and booleans, not for a ${kind}`];
  const reader = timeReader(read, kind);
  if (typeof reader === "function") return undefined;
  return ["wrong-format", `the format cannot be read: ${reader.unknown}; letters are %Y %m %d %H %M %S and the like`];
}

function columnWishes(
  compiling: Compiling,
  table: string,
  spec: TableSpec,
): { wishes: Map<string, ColumnWish>; info: Map<string, ColumnInfo> } {
  const wishes = new Map<string, ColumnWish>();
  const info = new Map<string, ColumnInfo>();
  for (const [name, given] of Object.entries(spec.columns ?? {})) {
    const column = asMap(given);
    const path = ["tables", table, "columns", name];
    if (column.read !== undefined) {
      column.type ??= kindOfRead(column.read);
      const problem = readProblem(column.type, column.read);
      if (problem) addFinding(compiling, [...path, "read"], ...problem, { piece: `tables.${table}` });
      // Readers find the words again that stand in the cells.
      else if (column.type === "boolean") column.format ??= column.read;
    }
    wishes.set(name, {
      ...(column.type ? { type: column.type } : {}),
      ...(column.read === undefined ? {} : { read: column.read }),
      ...(column.missing_as === undefined ? {} : { missingAs: column.missing_as }),
    });
    const { type: _type, read: _read, missing_as: _missing, ...said } = column;
    info.set(name, said);
  }
  return { wishes, info };
}

/** Columns of which the sheet says something must be there as read or after some step. */
function checkColumnNames(compiling: Compiling, name: string, spec: TableSpec, tables: readonly Table[]) {
  const known = new Set(tables.flatMap((table) => [...table.columns.keys()]));
  for (const column of Object.keys(spec.columns ?? {})) {
    if (known.has(column)) continue;
    const near = nearest(column, known);
    const span = compiling.sheet.source.keySpan(["tables", name, "columns", column]);
    compiling.findings.push({
      code: "unknown-column",
      severity: "error",
      message: `${name} has no column "${column}"${near ? `; did you mean ${near}?` : `; its columns are ${listed(known)}`}`,
      piece: `tables.${name}`,
      ...(span ? { span } : {}),
      ...writeFix(span, near),
    });
  }
}

/** How a column is to be read can only be said of one that is read: by the name that it has there. */
function checkReadings(
  compiling: Compiling,
  name: string,
  spec: TableSpec,
  tables: readonly Table[],
  steps: readonly Step[],
) {
  const asRead = spec.from === undefined ? tables[0] : undefined;
  for (const [column, given] of Object.entries(spec.columns ?? {})) {
    const { type, read, ...said } = asMap(given);
    const kind = tables.findLast((table) => table.columns.has(column))?.columns.get(column)?.kind;
    if (type === undefined || kind === undefined || asRead?.columns.has(column)) continue;
    if (kind === type && read === undefined) continue;
    const before = nameBefore(column, steps);
    const isThere = before !== column && asRead?.columns.has(before) === true;
    const path = ["tables", name, "columns", column];
    const span = compiling.sheet.source.keySpan(path);
    const isFree = isThere && Object.keys(said).length === 0 && !Object.hasOwn(spec.columns ?? {}, before);
    const key = /^[A-Za-z_]\w*$/.test(before) ? before : JSON.stringify(before);
    addFinding(
      compiling,
      path,
      "not-read",
      isThere
        ? `how it is read is said of "${before}", which is its name before it is renamed`
        : `only columns of a file are read as some type; ${column} comes of ${spec.from ?? "a step"}`,
      {
        piece: `tables.${name}`,
        ...(span && isFree ? { fix: { title: `write ${before}`, edits: [{ ...span, text: key }] } } : {}),
      },
    );
  }
}

function checkFormats(compiling: Compiling, name: string, spec: TableSpec, table: Table) {
  for (const [column, given] of Object.entries(spec.columns ?? {})) {
    const { format } = asMap(given);
    const kind = table.columns.get(column)?.kind;
    const problem = format === undefined || !kind || kind === "text" ? undefined : formatProblem(kind, format);
    if (problem === undefined) continue;
    const path = ["tables", name, "columns", column, "format"];
    addFinding(compiling, path, "wrong-format", problem, { piece: `tables.${name}` });
  }
}
