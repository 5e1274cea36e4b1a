import "../chart/all";
import "../mark/all";
import "../formula/functions/all";
import "../link/all";
import "../scale/all";
import "../steps/all";
import type { Finding } from "../finding/finding";
import { hasErrors } from "../finding/finding";
import { setNumberMarks } from "../formula/number-format";
import type { SelectionPlan } from "../link/selection";
import { chooseColors } from "../model/colors";
import { piecesOn } from "../page/page";
import type { ControlPlan, Plan, PlanPiece, StylePlan } from "../plan/plan";
import { speaksOf } from "../plan/speaks";
import type { IntakeReport } from "../read/report";
import type { Sheet } from "../sheet/read-sheet";
import { leaveOutRest } from "../sheet/split-texts";
import { readWholeSheet, tellPlaces } from "../sheet/used-sheets";
import type { LedgerLine, Step } from "../steps/step";
import type { Table } from "../table/table";
import { adviseCharts } from "./advice/index";
import { CompileCache } from "./cache";
import { colorSourceOf } from "./color-source";
import { type Compiling, routeOf, type TableStages } from "./compiling";
import { readControl } from "./controls/read-control";
import { readSettings } from "./controls/settings";
import { type Edition, type EditionsPlan, planEditions } from "./editions";
import { finishPieces } from "./finish";
import { readSelections } from "./links/read-selections";
import { mentionsOf, selectionNames } from "./mentions";
import { readNote } from "./note";
import { checkOpen } from "./opens";
import { outOfReach } from "./out-of-reach";
import { readPages } from "./pages";
import { beginAtZero } from "./part-of-whole";
import { type Media, readMedia } from "./pictures";
import { readPiece } from "./piece";
import { prune } from "./prune";
import { startStates } from "./start";
import { readStyle } from "./style";
import { buildTables } from "./tables";
import { withVariants } from "./variants";
import { readViews } from "./views";

export interface CompileInput {
  /** The sheet's own text. */
  text: string;
  /** The text as it was read already, by preparing its files. It is used up: findings are added to it. */
  sheet?: Sheet;
  /** Its file name, for messages. */
  fileName: string;
  /** Bytes of a file beside the sheet, or nothing. */
  readFile: (path: string) => Uint8Array | undefined;
  /** Paths of all files beside the sheet and below, for patterns; without it a pattern finds none. */
  listFiles?: () => readonly string[];
  /** Is told how far long work has come, from 0 to 1. */
  progress?: (what: string, part: number, rows?: number) => void;
  /** Only these rows: for one of several files. */
  edition?: Edition;
  /** Keeps pieces that stand on no page: for a proof that is still being laid out. */
  keepsUnplaced?: boolean;
  /** Keeps what files and steps gave, for compiling the same tables again. */
  cache?: CompileCache;
}

/** Rows in and out of a table's steps, and what reading made of its file. */
export interface TableAccount {
  name: string;
  rowCount: number;
  ledger: LedgerLine[];
  report?: IntakeReport;
}

export interface Compiled {
  findings: Finding[];
  sheet: Sheet;
  /** What could be planned; pieces with errors are left out and named in `plan.broken`. */
  plan: Plan;
  /** Tables that go into the file, with only the columns that are needed. */
  tables: Map<string, Table>;
  /** Packed tables that hold the groups of a piece in place of rows. */
  groups: ReadonlySet<string>;
  /** Pieces of groups that nothing in the dashboard reaches. */
  outOfReach: ReadonlySet<string>;
  neededBy: Map<string, Map<string, Set<string>>>;
  accounts: TableAccount[];
  /** The files that it makes, where it makes one for each value of a column. */
  editions?: EditionsPlan;
  /** One of those files. */
  edition?: Edition;
  /** Pictures that go along. */
  media: Media;
  /** Sound pieces that stand on no page. */
  unplaced: string[];
  /** Every table that could be read, stage by stage, also where a step is broken. */
  stages: ReadonlyMap<string, TableStages>;
  /** Steps of every sound table, as they were checked. */
  steps: ReadonlyMap<string, readonly Step[]>;
  /** True if a selection in one table can reach the rows of another. */
  reaches: (from: string, to: string) => boolean;
  ok: boolean;
}

/** Everything read and made that pieces are planned over: the look, settings and tables. */
function begin(input: CompileInput): { compiling: Compiling; style: StylePlan; editions: EditionsPlan | undefined } {
  const sheet = input.sheet ?? readWholeSheet(input.text, input.readFile);
  const compiling: Compiling = {
    sheet,
    findings: sheet.findings,
    tables: new Map(),
    sourceTables: new Map(),
    stages: new Map(),
    progress: input.progress ?? (() => undefined),
    settings: new Map(),
    used: new Set(),
    placed: new Set(),
    ...(input.edition ? { edition: input.edition } : {}),
    readFile: input.readFile,
    listFiles: input.listFiles ?? (() => []),
    cache: input.cache ?? new CompileCache(),
  };
  const style = readStyle(compiling);
  setNumberMarks(style.numbers);
  readSettings(compiling);
  buildTables(compiling);
  checkOpen(compiling);
  const editions = input.edition ? undefined : planEditions(compiling);
  Object.assign(compiling, selectionNames(compiling));
  return { compiling, style, editions };
}

/** Controls, charts and notes that are sound; others are named as broken. */
function readAll(compiling: Compiling): { controls: ControlPlan[]; pieces: PlanPiece[] } {
  const { sheet } = compiling;
  const sound = <T, P>(specs: ReadonlyMap<string, T>, read: (name: string, spec: T) => P | undefined): P[] =>
    [...specs].flatMap(([name, spec]) => {
      const found = read(name, spec);
      if (found === undefined) sheet.broken.add(name);
      return found === undefined ? [] : [found];
    });
  const controls = sound(sheet.controls, (name, spec) => readControl(compiling, name, spec));
  const charts = sound(sheet.charts, (name, spec) => withVariants(compiling, name, readPiece(compiling, name, spec)));
  const notes = sound(sheet.notes, (name, spec) => readNote(compiling, name, spec));
  return { controls, pieces: [...charts, ...notes] };
}

const accountsOf = ({ tables }: Compiling): TableAccount[] =>
  [...tables.values()].map(({ name, table, ledger, report }) => ({
    name,
    rowCount: table.rowCount,
    ledger,
    ...(report ? { report } : {}),
  }));

const stepsOf = ({ tables }: Compiling) => new Map([...tables].map(([name, { steps }]) => [name, steps]));

/** The title of a file: of one of several, with the value that it is of. */
const titleOf = ({ report }: Sheet, edition: Edition | undefined) => (edition ? `${report}: ${edition.value}` : report);

/** Compiles a sheet and its tables into a plan. Pure, and the same in Node, a worker and a browser. */
export function compile(input: CompileInput): Compiled {
  const { compiling, style, editions } = begin(input);
  const { sheet } = compiling;
  const { controls, pieces } = readAll(compiling);
  const selections = readSelections(compiling, new Map(pieces.map((piece) => [piece.name, piece])), controls);
  beginAtZero(compiling, pieces, selections);
  const mentions = mentionsOf(compiling, pieces, selections);
  const pages = readPages(compiling, pieces, controls, sheet.report);
  // While something is broken nobody knows what it would have used.
  if (!hasErrors(sheet.findings)) warnUnused(compiling, pieces, controls);
  startStates(compiling, controls, selections);
  const onPages = pages.flatMap(piecesOn);
  const placed = input.keepsUnplaced ? pieces : pieces.filter(({ name }) => onPages.includes(name));
  const told = selectionsAmong(selections, placed, pieces);
  leaveOutRest(sheet.findings, sheet.splits);
  // Of what cannot be built more is to be said first.
  const colors = chooseColors(placed, colorSourceOf(compiling, told));
  if (!hasErrors(sheet.findings)) adviseCharts(compiling, placed, colors);
  // Where readers may put in other rows, or all rows go along anyway, groups would hide nothing.
  const beyond = sheet.style.open || sheet.style.tables ? new Set<string>() : outOfReach(compiling, placed, told);
  const { pieces: shown, finished } = finishPieces(compiling, placed, beyond, told, sheetLeaves(sheet, input.edition));
  const { planned, tables, neededBy, opens } = prune(compiling, shown, controls, told, mentions);
  for (const [name, { table }] of finished) tables.set(name, table);
  for (const [name, { table, piece }] of finished) neededBy.set(name, onlyBy(table, piece));
  const media = readMedia(compiling, tables, shown);
  const plan: Plan = {
    version: 1,
    report: titleOf(sheet, input.edition),
    tables: planned,
    settings: Object.fromEntries(compiling.settings),
    controls,
    pieces: shown,
    selections: told,
    pages,
    colors,
    views: readViews(compiling, controls, told, pages),
    style,
    broken: brokenPieces(sheet),
    ...(opens ? { opens } : {}),
  };
  tellPlaces(sheet);
  return {
    findings: sheet.findings,
    sheet,
    plan,
    tables,
    neededBy,
    groups: new Set(finished.keys()),
    outOfReach: beyond,
    media,
    ...(editions ? { editions } : {}),
    ...(input.edition ? { edition: input.edition } : {}),
    unplaced: pieces.flatMap(({ name }) => (onPages.includes(name) ? [] : [name])),
    accounts: accountsOf(compiling),
    stages: compiling.stages,
    steps: stepsOf(compiling),
    reaches: (from, to) => routeOf(compiling, from, to) !== undefined,
    ok: !hasErrors(sheet.findings),
  };
}

/** All columns of a table, needed by one piece. */
const onlyBy = (table: Table, piece: string) =>
  new Map([...table.columns.keys()].map((column) => [column, new Set([piece])]));

/** True if the sheet's text goes along in the file. */
export const sheetLeaves = ({ style }: Sheet, edition: Edition | undefined): boolean =>
  edition ? style.sheet === "keep" : style.sheet !== "leave_out";

/**
 * Selections without what they would do to pieces that are left out, and without those that only such pieces
 * could make.
 */
function selectionsAmong(
  selections: readonly SelectionPlan[],
  placed: readonly PlanPiece[],
  all: readonly PlanPiece[],
): SelectionPlan[] {
  const names = new Set(placed.map(({ name }) => name));
  const isLeftOut = (name: string) => !names.has(name) && all.some((piece) => piece.name === name);
  const isAsked = (selection: string) =>
    placed.some((piece) => piece.waitsFor === selection || speaksOf(piece, selection));
  return selections
    .filter(({ name, source, start }) => start !== undefined || !isLeftOut(source) || isAsked(name))
    .map((selection) => ({ ...selection, effects: selection.effects.filter(({ target }) => !isLeftOut(target)) }));
}

/** What stands in the place of each broken piece: its first finding in words. */
function brokenPieces(sheet: Sheet): Record<string, string> {
  const broken: Record<string, string> = {};
  for (const name of sheet.broken) {
    if (name.startsWith("tables.")) continue;
    const own = sheet.findings.find((finding) => finding.piece === name && finding.severity === "error");
    const from = sheet.charts.get(name)?.from;
    const table =
      from === undefined
        ? undefined
        : sheet.findings.find((finding) => finding.piece === `tables.${from}` && finding.severity === "error");
    broken[name] = own?.message ?? table?.message ?? "this piece cannot be drawn";
  }
  return broken;
}

/** Things that stand in the sheet and do nothing. */
function warnUnused(compiling: Compiling, pieces: readonly PlanPiece[], controls: readonly ControlPlan[]) {
  const { sheet, used, placed } = compiling;
  const warn = (path: readonly (string | number)[], code: string, message: string) => {
    const span = sheet.source.keySpan(path);
    compiling.findings.push({ code, severity: "warning", message, ...(span ? { span } : {}) });
  };
  const drawsNothing = sheet.charts.size === 0 && sheet.broken.size === 0;
  if (drawsNothing) warn(["report"], "no-charts", "the sheet draws nothing yet: add charts:");
  // Before the first chart no table is used by anything, which needs no saying.
  for (const name of drawsNothing ? [] : sheet.tables.keys())
    if (compiling.tables.has(name) && !used.has(`tables.${name}`))
      warn(["tables", name], "unused-table", `nothing uses the table ${name}`);
  for (const control of controls) {
    if (control.type === "set" && !used.has(control.name))
      warn(["controls", control.name], "unused-setting", `nothing uses the setting $${control.name}`);
    else if (control.type !== "set" && sheet.pages.length && !placed.has(control.name))
      warn(["controls", control.name], "unplaced", `the control ${control.name} stands on no page`);
  }
  if (sheet.pages.length)
    for (const { name } of pieces)
      if (!placed.has(name))
        warn(
          [sheet.notes.has(name) ? "notes" : "charts", name],
          "unplaced",
          `the ${sheet.notes.has(name) ? "note" : "chart"} ${name} stands on no page`,
        );
}
