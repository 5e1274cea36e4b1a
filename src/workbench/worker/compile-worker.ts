import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex } from "@noble/hashes/utils.js";
import { expose } from "comlink";
import { zipSync } from "fflate";
import { CompileCache } from "../../core/compile/cache";
import { type Compiled, type CompileInput, compile } from "../../core/compile/compile";
import { prepareFiles } from "../../core/compile/prepare";
import { contentsOrFinding, fileOf } from "../../core/dashboard/build";
import type { Contents } from "../../core/dashboard/contents";
import { buildEditions } from "../../core/dashboard/editions";
import { proofScript, scriptFor, type ViewerKit } from "../../core/dashboard/parts";
import { type Finding, hasErrors } from "../../core/finding/finding";
import { ownOf } from "../../core/finding/own";
import { placeOf } from "../../core/finding/place";
import { type AccountLine, accountOf, rowsOnTheWay } from "../../core/look/accounting";
import { lighterWays } from "../../core/look/lighter";
import { linkMatrix } from "../../core/look/matrix";
import { type PicturePart, picturePartsOf } from "../../core/look/parts";
import { type Picture, pictureOf } from "../../core/look/pictures";
import type { DrawnSuggestion } from "../../core/look/suggested";
import { drawSuggestions } from "../../core/look/suggestions";
import { Model } from "../../core/model/model";
import { NO_DATE } from "../../core/project/archive";
import type { Reopened } from "../../core/project/reopen";
import type { Ground } from "../../core/scene/theme";
import type { KnownColumn } from "../../core/sheet/assist/knowledge";
import { type Column, kindOf } from "../../core/table/column";
import { sentColumn } from "../../core/table/sent-column";
import { type ColumnSummary, summaryOf } from "../../core/table/summary";
import type { Table } from "../../core/table/table";
import type { ProofColumns, ProofUpdate } from "../../viewer/proof/exchange";
import { cellWriter, checkIntake, soughtRows, tryTable, valuesOf, writtenRows } from "./looking";
import type {
  BuildReply,
  FileReply,
  IntakeReply,
  PieceView,
  RowsReply,
  Sought,
  TableView,
  Tried,
  Undrawable,
} from "./reply";

/** What keeps the file from being written comes first. */
const SEVERITIES = ["error", "warning", "advice"];

const files = new Map<string, Uint8Array>();
const cache = new CompileCache();
const samples = new WeakMap<Column, string[]>();
let kit: ViewerKit = { core: "", parts: {}, needs: {} };
let built: Compiled | undefined;
/** The text that was compiled last, and what a dashboard of it holds. */
let draft: { text: string; contents: Contents; placed: Compiled; input: CompileInput } | undefined;
let model: Model | undefined;
/** What was said of the last text that could be read as a sheet. */
let last: BuildReply | undefined;

/** Progress goes out at once, also in the middle of a long compile. */
let told = 0;
function progress(what: string, part: number, rows?: number) {
  const now = performance.now();
  if (now - told < 80) return;
  told = now;
  postMessage({ stillHarbor: "progress", what, part, ...(rows === undefined ? {} : { rows }) });
}

function samplesOf(table: Table, name: string): string[] {
  const column = table.columns.get(name) as Column;
  const known = samples.get(column);
  if (known) return known;
  const found = new Set<string>();
  const write = cellWriter(table, name);
  for (let row = 0; row < Math.min(table.rowCount, 200) && found.size < 3; row++) {
    const text = write(row);
    if (text) found.add(text.slice(0, 24));
  }
  samples.set(column, [...found]);
  return [...found];
}

function knownColumns(table: Table): KnownColumn[] {
  return [...table.columns].map(([name, column]) => {
    const { unit, role } = table.info.get(name) ?? {};
    return {
      name,
      kind: kindOf(column),
      ...(unit === undefined ? {} : { unit }),
      ...(role === "image" ? { image: true } : {}),
      samples: samplesOf(table, name),
    };
  });
}

function stageOf(table: string, stage: number): Table | undefined {
  const tables = built?.stages.get(table)?.tables;
  return tables?.[Math.min(stage, tables.length - 1)];
}

function pieceViews({ plan, sheet }: Compiled): PieceView[] {
  const sound = new Map(plan.pieces.map((piece) => [piece.name, piece]));
  const names = [
    ...new Set([...Object.keys(plan.broken).filter((name) => !sheet.controls.has(name)), ...sound.keys()]),
  ];
  const at = (name: string) => sheet.source.keySpan(["charts", name])?.start ?? Number.MAX_SAFE_INTEGER;
  return names
    .sort((a, b) => at(a) - at(b))
    .map((name): PieceView => {
      const piece = sound.get(name);
      if (piece) return { name, title: piece.words.title, kind: piece.plan.type, from: piece.plan.from };
      return { name, title: name, kind: "broken", problem: ownOf(plan.broken, name) ?? "" };
    });
}

const stamps = new WeakMap<Table["columns"], number>();
let lastStamp = 0;

/** The number of these very columns; tables that were not made again keep theirs. */
function stampOf({ columns }: Table): number {
  const known = stamps.get(columns);
  if (known !== undefined) return known;
  lastStamp += 1;
  stamps.set(columns, lastStamp);
  return lastStamp;
}

function tableViews({ stages, sheet }: Compiled): TableView[] {
  return [...stages.values()].map((stage) => {
    const spec = sheet.tables.get(stage.name);
    return {
      name: stage.name,
      source:
        spec?.read ??
        (spec?.make
          ? `${spec.make.rows} rows made`
          : spec?.from === undefined
            ? "rows in the sheet"
            : `from ${spec.from}`),
      rowsIn: stage.tables[0]?.rowCount ?? 0,
      ledger: stage.ledger,
      stamps: stage.tables.map(stampOf),
      ...(stage.report ? { report: stage.report } : {}),
      ...(stage.brokenStep === undefined ? {} : { brokenStep: stage.brokenStep }),
    };
  });
}

const columnStamps = new WeakMap<Column, number>();

/** The number of this very column; columns are immutable, and those that were not made again keep theirs. */
function columnStamp(column: Column): number {
  const known = columnStamps.get(column);
  if (known !== undefined) return known;
  lastStamp += 1;
  columnStamps.set(column, lastStamp);
  return lastStamp;
}

/** What a proof takes over of a state of the report. */
function updateOf({ plan, tables }: Compiled, { seal, body, css, onScreen, pictures }: Contents): ProofUpdate {
  return {
    plan,
    seal,
    body,
    css,
    onScreen,
    pictures,
    tables: [...tables].map(([name, table]) => ({
      name,
      rowCount: table.rowCount,
      columns: [...table.columns].map(([column, values]) => ({ name: column, stamp: columnStamp(values) })),
    })),
  };
}

const api = {
  /** Hands over the viewer, of which every dashboard gets its parts. */
  open(viewer: ViewerKit) {
    kit = viewer;
  },
  /** Another report is opened: nothing of the one before is shown any more. */
  forget() {
    built = undefined;
    draft = undefined;
    model = undefined;
    last = undefined;
  },
  /** Hands over the bytes of a file, known by their hash from then on. */
  put(hash: string, bytes: Uint8Array) {
    files.set(hash, bytes);
  },
  /** The bytes of a file, for a page that has lost them. */
  bytes(hash: string): Uint8Array | undefined {
    return files.get(hash);
  },
  /** Compiles the sheet: what is sound is built even while errors stand. */
  async build(text: string, fileName: string, paths: readonly (readonly [string, string])[]): Promise<BuildReply> {
    const started = performance.now();
    const byPath = new Map(paths);
    const input = {
      text,
      fileName,
      readFile: (path: string) => files.get(byPath.get(path) ?? ""),
      listFiles: () => [...byPath.keys()],
      cache,
      progress,
    };
    // A chart that is being written stands on no page yet, and is looked at all the same.
    const next = compile({ ...input, sheet: await prepareFiles(input), keepsUnplaced: true });
    const placed = next.unplaced.length ? compile(input) : next;
    const { contents } = contentsOrFinding(next, cache, false);
    const packing = placed === next ? contents?.packing : contentsOrFinding(placed, cache, false).contents?.packing;
    const findings = next.findings.map((finding) => ({ ...finding, ...placeOf(text, finding.span?.start ?? 0) }));
    findings.sort(
      (a, b) =>
        SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity) || a.line - b.line || a.column - b.column,
    );
    // A text that is no sheet at the moment (a key is being typed) says nothing of the rest, which stays as it was.
    if (last && next.findings.some(({ code }) => code === "yaml" || code === "not-a-sheet"))
      return { ...last, update: undefined, findings, ok: false, milliseconds: performance.now() - started };
    built = next;
    draft = contents && { text, contents, placed, input };
    model = undefined;
    const { plan, sheet } = built;
    const drawn = plan.pieces.length > 0 || hasErrors(built.findings) === false;
    last = {
      update: drawn && contents ? updateOf(built, contents) : undefined,
      findings,
      ok: !hasErrors(built.findings),
      report: sheet.report,
      tables: tableViews(built),
      pieces: pieceViews(built),
      controls: [...sheet.controls.keys()],
      matrix: linkMatrix(built),
      links: sheet.links.length,
      pages: plan.pages,
      packing: packing ?? [],
      lighter: lighterWays(placed, packing ?? []),
      picturesOutside: plan.style.pictures === "outside",
      editions: placed.editions?.files.length ?? 0,
      sheetLeaves: sheet.style.sheet !== "leave_out",
      knowledge: {
        tables: new Map([...built.stages].map(([name, stage]) => [name, stage.tables.map(knownColumns)])),
        files: [...byPath.keys()],
        charts: [...sheet.charts.keys()],
        controls: [...sheet.controls.keys()],
        settings: Object.keys(plan.settings),
      },
      milliseconds: performance.now() - started,
    };
    return last;
  },
  /** The file as it is written now, and as a proof has it, or why it cannot be drawn. */
  file(): FileReply | Undrawable | undefined {
    if (!built || !draft) return undefined;
    const [compiled, { text, placed }] = [built, draft];
    const { contents } = contentsOrFinding(compiled, cache, true);
    if (!contents) {
      const finding = compiled.findings.at(-1) as Finding;
      return { finding: { ...finding, ...placeOf(text, finding.span?.start ?? 0) } };
    }
    const ofPlaced = placed === compiled ? contents : contentsOrFinding(placed, cache, true).contents;
    return {
      file: fileOf(ofPlaced ?? contents, scriptFor(kit)(placed.plan)),
      proof: fileOf(contents, proofScript(kit)),
    };
  },
  /** The files of a sheet with editions as one zip; said one by one as they are done. */
  editions(): { zip: Uint8Array; count: number } | { problem: string } {
    if (!draft?.placed.editions) return { problem: "this sheet has none" };
    const entries: Record<string, Uint8Array> = {};
    const { input, placed } = draft;
    for (const { file, html, findings, at, of } of buildEditions(input, placed, { viewer: scriptFor(kit) })) {
      if (html === undefined) return { problem: `${file}: ${findings[0]?.message ?? "it has something to mend"}` };
      entries[file] = new TextEncoder().encode(html);
      told = 0;
      progress(`writing ${file}`, at / of);
    }
    return { zip: zipSync(entries, { level: 6, mtime: NO_DATE }), count: Object.keys(entries).length };
  },
  /** Bytes of the whole file as it would be written now, and its hash. */
  weight(): { bytes: number; seal: string } {
    const written = this.file();
    const bytes = new TextEncoder().encode(written && "file" in written ? written.file : "");
    return { bytes: bytes.length, seal: bytes.length ? bytesToHex(sha256(bytes)) : "" };
  },
  /** Columns of the dashboard by their numbers. */
  columns(stamps: readonly number[]): ProofColumns {
    const wanted = new Set(stamps);
    return [...(built?.tables.values() ?? [])].flatMap((table) =>
      [...table.columns.values()].flatMap((column): ProofColumns => {
        const stamp = columnStamp(column);
        return wanted.has(stamp) ? [[stamp, sentColumn(column)]] : [];
      }),
    );
  },
  /** Rows of a table as they stand at a stage, written out; only those that are sought, if some are. */
  rows(table: string, stage: number, from: number, to: number, sought?: Sought): RowsReply {
    const found = stageOf(table, stage);
    if (!found) return { rowCount: 0, rows: [] };
    return writtenRows(found, from, to, sought && soughtRows(table, found, sought, onTheWay));
  },
  /** How many rows are sought at a stage, or why that cannot be said. */
  sought(table: string, stage: number, sought: Sought): { rows: number; problem?: string } {
    const found = stageOf(table, stage);
    const rows = found ? soughtRows(table, found, sought, onTheWay) : undefined;
    return typeof rows === "string" ? { rows: 0, problem: rows } : { rows: rows?.length ?? 0 };
  },
  /** The values of a column with their rows, the most frequent first. */
  values(table: string, stage: number, column: string): { value: string; rows: number }[] {
    const found = stageOf(table, stage);
    return found ? valuesOf(found, column) : [];
  },
  /** What a table would be at a stage if the sheet were another: for a look before a step is taken. */
  tried(text: string, paths: readonly (readonly [string, string])[], table: string, stage: number): Tried {
    const byPath = new Map(paths);
    return tryTable(
      {
        text,
        fileName: "sheet",
        readFile: (path) => files.get(byPath.get(path) ?? ""),
        listFiles: () => [...byPath.keys()],
        cache,
      },
      table,
      stage,
    );
  },
  /** A written dashboard as a report again; what takes dashboards apart is fetched when there is one. */
  async reopened(html: string, name: string): Promise<Reopened | "no dashboard" | "no sheet"> {
    const [{ readDashboardFile }, { reopened }] = await Promise.all([
      import("../../core/project/dashboard-file"),
      import("../../core/project/reopen"),
    ]);
    const found = readDashboardFile(html);
    return found ? (reopened(found, name) ?? "no sheet") : "no dashboard";
  },
  /** What would change if a file came in place of another of its name. */
  async intake(
    text: string,
    paths: readonly (readonly [string, string])[],
    path: string,
    hash: string,
  ): Promise<IntakeReply[]> {
    const [now, then] = [new Map(paths), new Map([...paths, [path, hash] as const])];
    const inputOf = (files_: ReadonlyMap<string, string>): CompileInput => ({
      text,
      fileName: "sheet",
      readFile: (one) => files.get(files_.get(one) ?? ""),
      listFiles: () => [...files_.keys()],
      cache,
      progress,
    });
    await prepareFiles(inputOf(then));
    return checkIntake(inputOf(now), inputOf(then), path);
  },
  /** Every column of a table at a stage, summed up. */
  summary(table: string, stage: number): [string, ColumnSummary][] {
    const found = stageOf(table, stage);
    return [...(found?.columns ?? [])].map(([name, column]) => [name, summaryOf(column)]);
  },
  /** A piece as small as a stamp. */
  picture(piece: string, width: number, height: number, ground: Ground): Picture {
    return pictureOf(currentModel(), piece, width, height, ground);
  },
  /** The first chart of the report that can be drawn small, on both grounds. */
  look(width: number, height: number): { light: string; dark: string } | undefined {
    for (const { name } of built?.plan.pieces ?? []) {
      const [light, dark] = (["light", "dark"] as const).map((ground) =>
        pictureOf(currentModel(), name, width, height, ground),
      );
      if (light?.type === "svg" && dark?.type === "svg") return { light: alone(light.svg), dark: alone(dark.svg) };
    }
    return undefined;
  },
  /** What can be chosen of each part of a chart, and the text that the choices would edit. */
  parts(piece: string): { text: string; parts: PicturePart[] } {
    return built ? { text: built.sheet.source.text, parts: picturePartsOf(built, piece) } : { text: "", parts: [] };
  },
  /** From rows to marks, for one piece. */
  account(piece: string): AccountLine[] {
    return built ? accountOf(built, currentModel(), piece) : [];
  },
  /** First charts for a table, or those in which some of its columns stand, drawn from its rows. */
  suggest(table: string, columns: readonly string[], ground: Ground): DrawnSuggestion[] {
    const rows = built?.stages.get(table)?.tables.at(-1);
    return draft && rows ? drawSuggestions(draft.input, table, rows, columns, ground) : [];
  },
};

function currentModel(): Model {
  if (!built) throw new Error("nothing is compiled yet");
  model ??= new Model(built.plan, built.tables, cache.answers.answer);
  return model;
}

/** An SVG that stands in no page says what it is. */
const alone = (svg: string): string => svg.replace("<svg ", '<svg xmlns="http://www.w3.org/2000/svg" ');

const onTheWay = ({ piece, which }: NonNullable<Sought["way"]>): Int32Array =>
  built ? rowsOnTheWay(built, currentModel(), piece, which) : new Int32Array(0);

export type CompileWorker = typeof api;

expose(api);

// A lock that is held as long as this worker lives tells the page when it has died, however it died.
addEventListener("message", (event: MessageEvent<{ stillHarbor?: string; lock?: string } | null>) => {
  if (event.data?.stillHarbor !== "live" || !event.data.lock || !navigator.locks) return;
  void navigator.locks.request(event.data.lock, () => {
    postMessage({ stillHarbor: "living" });
    return new Promise(() => undefined);
  });
});
