import type { Finding } from "../finding/finding";
import { checkFormula } from "../formula/check";
import { withDays } from "../formula/days";
import { withOptions, withSelections } from "../formula/options";
import type { Scope } from "../formula/scope";
import type { Formula } from "../formula/tree";
import { settingsOf } from "../formula/tree";
import { bareName, writeName } from "../formula/words";
import type { Ties } from "../link/lineage";
import { pathUp, type Route, routeBetween, stackedIn, type TableFamily } from "../link/route";
import type { SettingPlan } from "../plan/plan";
import type { ColumnWish } from "../read/infer";
import type { IntakeReport } from "../read/report";
import { findingAt, formulaFinding, readFormula, type Sheet } from "../sheet/read-sheet";
import type { TableSpec } from "../sheet/schema-tables";
import type { Path } from "../sheet/tree";
import type { LedgerLine, Step, StepContext } from "../steps/step";
import type { Kind, Scalar } from "../table/column";
import { emptyTable, kindsOf, type Table } from "../table/table";
import type { CompileCache } from "./cache";
import type { Edition } from "./editions";

/** A table of the sheet, read and run. */
export interface BuiltTable {
  name: string;
  spec: TableSpec;
  table: Table;
  steps: Step[];
  from?: string;
  ledger: LedgerLine[];
  report?: IntakeReport;
  /** What the sheet says of how its columns are read. */
  wishes: ReadonlyMap<string, ColumnWish>;
  /** Some step depends on a setting, or on a table that does, so that it must run in the dashboard. */
  usesSettings: boolean;
  /** Look-up tables whose rows its rows have found, and which rows; along these ties selections travel too. */
  ties: Ties;
}

/** A table on its way through its steps: as read, then after each step that could be run. */
export interface TableStages {
  name: string;
  /** One more than there are ledger lines. */
  tables: Table[];
  ledger: LedgerLine[];
  report?: IntakeReport;
  /** The step that cannot be run, if one cannot; those below it wait. */
  brokenStep?: number;
}

/** What is known while a sheet is compiled; findings gather here. */
export interface Compiling {
  sheet: Sheet;
  findings: Finding[];
  tables: Map<string, BuiltTable>;
  /** Tables as read, before their steps; kept for those whose steps follow a setting. */
  sourceTables: Map<string, Table>;
  /** Every table that could be read, also where a step is broken. */
  stages: Map<string, TableStages>;
  settings: Map<string, SettingPlan>;
  /** Names of settings, and of tables after "tables.", that something uses. */
  used: Set<string>;
  /** Pieces and controls that stand on some page. */
  placed: Set<string>;
  /** Only these rows of a table are taken, before any step. */
  edition?: Edition;
  readFile: (path: string) => Uint8Array | undefined;
  /** Paths of all files beside the sheet, for patterns. */
  listFiles: () => readonly string[];
  /** Is told how far long work has come, from 0 to 1. */
  progress: (what: string, part: number, rows?: number) => void;
  cache: CompileCache;
  /** Selections that formulas of charts may speak of; not known before the tables are built. */
  selections?: ReadonlyMap<string, ReadonlyMap<string, Kind>>;
  /** Names of selections that links and picks would make, if these are sound or not. */
  promised?: ReadonlySet<string>;
}

const familyOf =
  (compiling: Compiling) =>
  (name: string): TableFamily | undefined => {
    const table = compiling.tables.get(name);
    return (
      table && {
        ...(table.from === undefined ? {} : { from: table.from }),
        ties: [...table.ties.keys()],
        stacked: stackedIn(table.steps),
      }
    );
  };

/** The tables from a table up to the one that was read. */
export function ancestry(compiling: Compiling, name: string): string[] {
  return pathUp(name, familyOf(compiling));
}

/** True for a table whose rows follow a setting: by its own steps, by those above it, or by what these read. */
export const followsSettings = (compiling: Compiling, name: string): boolean =>
  ancestry(compiling, name).some((one) => compiling.tables.get(one)?.usesSettings);

/** How a selection in one table reaches another. */
export function routeOf(compiling: Compiling, from: string, to: string): Route | undefined {
  return routeBetween(from, to, familyOf(compiling));
}

export function addFinding(
  compiling: Compiling,
  path: Path,
  code: string,
  message: string,
  more: Partial<Finding> = {},
) {
  compiling.findings.push(findingAt(compiling.sheet.source, path, code, message, more));
}

export function settingValue(compiling: Compiling): (name: string) => Scalar {
  return (name) => compiling.settings.get(name)?.start ?? null;
}

/** What steps see beside their own table; other tables are built before they are read. */
export function stepContext(compiling: Compiling): StepContext {
  return { setting: settingValue(compiling), table: (name) => compiling.tables.get(name)?.table ?? emptyTable };
}

export function scopeOf(compiling: Compiling, name: string, table: Table, aggregates: Scope["aggregates"]): Scope {
  return {
    columns: kindsOf(table),
    settings: new Map(
      [...compiling.settings].flatMap(([setting, { kind, list }]) => (list ? [] : [[setting, kind as Kind] as const])),
    ),
    lists: new Map(
      [...compiling.settings].flatMap(([setting, { kind, list }]) => (list ? [[setting, kind as Kind] as const] : [])),
    ),
    options: new Map([...compiling.settings].flatMap(([setting, { of }]) => (of ? [[setting, of] as const] : []))),
    tableName: name,
    aggregates,
    ...(compiling.selections ? { selections: compiling.selections } : {}),
    ...(compiling.promised ? { promised: compiling.promised } : {}),
  };
}

export interface CheckedFormula {
  formula: Formula;
  name?: string;
  kind: Kind;
  aggregate: boolean;
  constant: boolean;
}

interface CheckOptions {
  named?: boolean;
  aggregates?: Scope["aggregates"];
  rowFunctions?: Scope["rowFunctions"];
  piece?: string;
  /** Columns that a reader may choose can be of different kinds. */
  mixed?: boolean;
  /** Only this kind will do. */
  wanted?: Kind;
  /** A sort item: a leading minus turns the order around and does not belong to the formula. */
  offset?: number;
}

/** A control that is found wrong at its own place: what asks for its setting waits, and is not found wrong too. */
const isRefused = ({ sheet, settings }: Compiling, name: string): boolean =>
  !settings.has(name) && (sheet.broken.has(name) || sheet.controls.get(name)?.set !== undefined);

/** Says in place of what it led to that a column's name stands in a formula without its backticks. */
function sayBareName(
  { sheet: { source }, findings }: Compiling,
  path: Path,
  text: string,
  table: Table,
  { offset = 0, piece }: CheckOptions,
): undefined {
  const bare = bareName(text, table.columns.keys());
  const whole = source.valueSpan(path);
  if (!bare || !whole) return;
  const said = new Set(["bad-formula", "bad-sign", "unknown-column", "unknown-function"]);
  const before = findings.length;
  for (let last = findings.at(-1); last && said.has(last.code); last = findings.at(-1)) {
    const { start = -1, end = -1 } = last.span ?? {};
    if (start < whole.start || end > whole.end) break;
    findings.pop();
  }
  if (findings.length === before) return;
  const name = writeName(bare.name);
  const written = `${offset ? "-" : ""}${text.slice(0, bare.start)}${name}${text.slice(bare.end)}`;
  findings.push({
    code: "bare-name",
    severity: "error",
    message:
      `the column ${bare.name} has other characters than letters, ` +
      `digits and _: in a formula it stands in backticks, ${name}`,
    span: source.insideSpan(path, bare.start + offset, bare.end + offset) ?? whole,
    fix: { title: `write ${name}`, edits: [{ ...whole, text: JSON.stringify(written) }] },
    ...(piece ? { piece } : {}),
  });
}

/** Reads and checks a formula of the sheet over a table; adds findings and answers nothing where it fails. */
export function checkedFormula(
  compiling: Compiling,
  path: Path,
  text: string,
  tableName: string,
  table: Table,
  options: CheckOptions = {},
): CheckedFormula | undefined {
  const { source } = compiling.sheet;
  const named = readFormula(source, path, text, compiling.findings, {
    named: options.named === true,
    offset: options.offset ?? 0,
    ...(options.piece ? { piece: options.piece } : {}),
  });
  if (!named) return sayBareName(compiling, path, text, table, options);
  const scope = {
    ...scopeOf(compiling, tableName, table, options.aggregates ?? "allowed"),
    ...(options.rowFunctions ? { rowFunctions: options.rowFunctions } : {}),
    ...(options.mixed ? { mixed: true } : {}),
  };
  if ([...settingsOf(named.formula)].some((setting) => isRefused(compiling, setting))) return undefined;
  const formula = withDays(named.formula, (setting) => compiling.settings.get(setting)?.day === true);
  const checked = checkFormula(formula, scope);
  for (const problem of checked.problems)
    compiling.findings.push({
      ...formulaFinding(source, path, problem, options.offset ?? 0),
      ...(options.piece ? { piece: options.piece } : {}),
    });
  for (const setting of settingsOf(named.formula)) compiling.used.add(setting);
  if (checked.problems.length) return sayBareName(compiling, path, text, table, options);
  const kind = checked.kind === "missing" || checked.kind === "list" ? "number" : checked.kind;
  if (options.wanted && checked.kind !== options.wanted) {
    addFinding(
      compiling,
      path,
      "wrong-kind",
      `this must be ${options.wanted === "boolean" ? "true or false" : `a ${options.wanted}`}, not a ${kind}`,
      options.piece ? { piece: options.piece } : {},
    );
    return undefined;
  }
  return {
    formula: withSelections(withOptions(formula, scope.options), scope.selections),
    ...(named.name === undefined ? {} : { name: named.name }),
    kind,
    aggregate: checked.aggregate,
    constant: checked.constant,
  };
}
