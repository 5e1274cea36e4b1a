import { isolateHistory, redo, redoDepth, undo, undoDepth } from "@codemirror/commands";
import {
  Annotation,
  Compartment,
  EditorState,
  type Extension,
  StateEffect,
  type Transaction,
  type TransactionSpec,
} from "@codemirror/state";
import { EditorView } from "@codemirror/view";
import type { TextEdit } from "../../core/finding/finding";
import type { ProjectFiles } from "../../core/project/archive";
import type { Ground } from "../../core/scene/theme";
import type { ProofUpdate } from "../../viewer/proof/exchange";
import { Database, type ProjectRow, type VersionRow } from "../store/database";
import { hashOf, Projects } from "../store/projects";
import type { FileReply, PlacedFinding } from "../worker/reply";
import { Builder } from "./builder";
import { DEMO_SHEET, openDemo, viewerKit } from "./demo";
import { type FileChange, filesField, newDocument, setFile } from "./document";
import { Keeper } from "./keeper";
import { forget, recall, remember } from "./memo";
import { compiled } from "./standing-text";
import { AT_FIRST, type DeskState, NARROW } from "./state";
import { Store } from "./store";

const fromElsewhere = Annotation.define<boolean>();
const VERSION_EVERY = 10 * 60 * 1000;
/** How often it is looked whether the browser still has what it keeps, in milliseconds. */
const LOOK_EVERY = 5000;

/** Stands while a report is compiled; where it is found at an opening, the page did not come to the end of that. */
const markOf = (id: string) => `compiling ${id}`;
const draftOf = (id: string) => `draft ${id}`;

const sameFiles = (a: ReadonlyMap<string, string>, b: ReadonlyMap<string, string>) =>
  a.size === b.size && [...a].every(([path, hash]) => b.get(path) === hash);

/**
 * The author's desk: one open report, its history, its compiler and where it is kept. Interfaces
 * read {@link state} and ask here for every change; nothing else writes the document.
 */
/** Size of a report's picture in the list of reports, in pixels. */
export const LOOK = { width: 200, height: 112 };

export class Desk {
  readonly state = new Store<DeskState>(AT_FIRST);
  readonly projects = new Projects(new Database());
  readonly builder: Builder;
  /** Bytes that the browser refused to keep, by hash; they live as long as this page. */
  readonly memory = new Map<string, Uint8Array>();
  /** Takes a new dashboard at once; answers whether the proof is in sight and shows it. */
  onProof: ((update: ProofUpdate) => boolean) | undefined;
  private keeper: Keeper | undefined;
  private view: EditorView | undefined;
  private extensions: Extension = [];
  private readonly writable = new Compartment();
  private document: EditorState = newDocument("", new Map(), [this.writable.of(EditorState.readOnly.of(false))]);
  private lastVersion = 0;

  constructor() {
    this.builder = new Builder(viewerKit, (hash) => this.bytes(hash), {
      working: (work) => this.state.set({ work }),
      problem: (problem) => {
        this.ended();
        this.state.set({ problem });
      },
      done: (reply, job) => {
        // The proof is told first: everything else on the screen can wait for it.
        if (reply.update === undefined || !this.onProof?.(reply.update)) this.ended();
        this.state.set({ reply, replyText: job.text, ...(reply.update ? { update: reply.update } : {}) });
        if (reply.ok) this.state.set({ problem: undefined });
      },
    });
  }

  /** Opens the report that was open last, or the demo report on a first visit. */
  async start() {
    // Room may come free without anything being changed here.
    setInterval(() => this.memory.size && this.keep(), 10_000);
    setInterval(() => void this.findLost(), LOOK_EVERY);
    // Who leaves in the middle of a compile was not brought down by it.
    window.addEventListener("pagehide", () => {
      this.ended();
      this.noteDraft();
    });
    if (window.innerWidth <= NARROW)
      this.state.set({ folds: { tables: true, charts: true, links: true, pages: true, publish: true } });
    if (document.documentElement.dataset.ground === "dark") this.state.set({ ground: "dark" });
    const wanted = new URL(location.href).searchParams.get("report") ?? recall("last");
    const row = wanted === null ? undefined : await this.projects.load(wanted).catch(() => undefined);
    try {
      if (row) await this.openAsLeft(row);
      else await this.openDemoReport();
    } catch (fault) {
      this.state.set({
        work: undefined,
        problem: `The report could not be opened: ${fault instanceof Error ? fault.message : String(fault)}`,
      });
    }
  }

  /** Opens a report with what was written in the last moment before its page was left. */
  private async openAsLeft(row: ProjectRow) {
    const noted = recall(draftOf(row.id));
    const draft = noted === null ? undefined : (JSON.parse(noted) as ProjectRow);
    const isNewer = draft !== undefined && draft.changed > row.changed;
    await this.open(isNewer ? { ...row, text: draft.text, files: draft.files } : row);
    if (isNewer) this.keep();
    forget(draftOf(row.id));
  }

  async openDemoReport() {
    const demo = await openDemo();
    await this.openFiles({ sheetName: DEMO_SHEET, text: demo.text, files: new Map(demo.files) });
  }

  /** Makes a report of its own from a sheet and files, and opens it. */
  async openFiles(project: ProjectFiles) {
    const files: [string, string][] = [];
    for (const [path, bytes] of project.files) files.push([path, await this.keepBytes(bytes)]);
    await this.open({
      id: crypto.randomUUID?.() ?? Math.random().toString(36).slice(2),
      sheetName: project.sheetName,
      text: project.text,
      files,
      changed: Date.now(),
      revision: 0,
    });
    this.keep();
  }

  /** Takes a report in hand. */
  async open(row: ProjectRow) {
    this.keeper?.release();
    this.ended();
    const { station, folds, ground } = this.state.get();
    this.state.set({
      ...AT_FIRST,
      station,
      folds,
      ground,
      id: row.id,
      sheetName: row.sheetName,
      text: row.text,
      files: new Map(row.files),
    });
    this.lastVersion = 0;
    this.builder.forget();
    this.document = newDocument(row.text, new Map(row.files), [
      this.writable.of(EditorState.readOnly.of(false)),
      this.extensions,
    ]);
    this.view?.setState(this.document);
    // Not as far down as the report before was read.
    this.dispatch({ effects: EditorView.scrollIntoView(0) });
    remember("last", row.id);
    history.replaceState(null, "", `?report=${encodeURIComponent(row.id)}`);
    this.keeper = new Keeper(this.projects, {
      keeping: (keeping) => {
        if (keeping.type === "saved") void this.findLost();
        // A text that is kept without its table is not kept.
        this.state.set({
          keeping:
            keeping.type === "saved" && this.memory.size
              ? { type: "refused", reason: "the browser's storage is full" }
              : keeping,
        });
        this.dispatch({ effects: this.writable.reconfigure(EditorState.readOnly.of(keeping.type === "following")) });
      },
      changed: (changed) => this.takeOver(changed),
    });
    await this.keeper.take(row);
    // Another tab that has the report in hand may be in the middle of its own compile.
    if (recall(markOf(row.id)) !== null && !this.keeper.follows) this.state.set({ held: true, work: undefined });
    this.compile();
  }

  /** Compiles a report that was held back. */
  release() {
    this.state.set({ held: false });
    this.compile();
  }

  /** A compile, and the proof that came of it, went well or ill without bringing the page down. */
  ended() {
    const { id, held } = this.state.get();
    if (id && !held) forget(markOf(id));
  }

  /** On leaving, what is not written yet goes where it can be put at once; the next opening finds it there. */
  private noteDraft() {
    const { id, keeping } = this.state.get();
    if (id && keeping.type === "saving") remember(draftOf(id), JSON.stringify(this.row()));
  }

  /** The bytes of a file of the report. */
  async bytes(hash: string): Promise<Uint8Array | undefined> {
    return this.memory.get(hash) ?? (await this.projects.bytes(hash));
  }

  /** The text and files as another tab has written them. */
  private takeOver(row: ProjectRow) {
    const { text, files } = this.state.get();
    const theirs = new Map(row.files);
    const paths = [...new Set([...files.keys(), ...theirs.keys()])].filter(
      (path) => files.get(path) !== theirs.get(path),
    );
    const effects = paths.map((path) => setFile.of({ path, hash: theirs.get(path) }));
    if (text === row.text && effects.length === 0) return;
    this.dispatch({
      ...(text === row.text ? {} : { changes: { from: 0, to: text.length, insert: row.text } }),
      effects,
      annotations: fromElsewhere.of(true),
    });
  }

  /** Gives the document an editor to be written in; its history goes on. Answers how to take it away. */
  attach(parent: HTMLElement, extensions: Extension): () => void {
    this.extensions = extensions;
    this.document = this.document.update({ effects: StateEffect.appendConfig.of(extensions) }).state;
    const view = new EditorView({
      parent,
      state: this.document,
      dispatchTransactions: (transactions) => {
        view.update(transactions);
        for (const transaction of transactions) this.changed(transaction);
      },
    });
    this.view = view;
    return () => {
      view.destroy();
      if (this.view === view) this.view = undefined;
    };
  }

  get editor(): EditorView | undefined {
    return this.view;
  }

  private dispatch(spec: TransactionSpec) {
    if (this.view) this.view.dispatch(spec);
    else this.changed(this.document.update(spec));
  }

  private changed(transaction: Transaction) {
    this.document = transaction.state;
    const files = transaction.state.field(filesField);
    const before = this.state.get();
    const canUndo = undoDepth(transaction.state) > 0;
    const canRedo = redoDepth(transaction.state) > 0;
    if (!transaction.docChanged && sameFiles(files, before.files)) {
      this.state.set({ canUndo, canRedo });
      return;
    }
    if (!transaction.annotation(fromElsewhere)) this.keepVersion(before);
    this.state.set({ text: transaction.state.doc.toString(), files, canUndo, canRedo, notice: undefined });
    if (!transaction.annotation(fromElsewhere)) this.keep();
    this.compile();
  }

  /** Changes the document by a gesture: one step of the history. */
  edit(edits: readonly TextEdit[] | undefined, files: readonly FileChange[] = [], show = true): boolean {
    if (!edits || this.state.get().keeping.type === "following") return false;
    const changes = edits.map(({ start, end, text }) => ({ from: start, to: end, insert: text }));
    this.dispatch({
      changes,
      effects: files.map((file) => setFile.of(file)),
      annotations: isolateHistory.of("full"),
      userEvent: "input.gesture",
    });
    const first = edits[0];
    if (show && first) this.show(first.start, first.start + first.text.length);
    return true;
  }

  /** The file as it would be written now; why it cannot be drawn, if so, joins what is to be mended. */
  async file(): Promise<FileReply | undefined> {
    const { reply } = this.state.get();
    const written = await this.builder.call?.file();
    if (!written || "file" in written) return written;
    const { finding } = written;
    if (reply && this.state.get().reply === reply && !reply.findings.some(({ message }) => message === finding.message))
      this.state.set({ reply: { ...reply, ok: false, findings: [finding, ...reply.findings] } });
    return undefined;
  }

  /** Keeps how the report looks at rest, for the list of reports. */
  async keepLook(bytes: number) {
    const { id, reply, keeping } = this.state.get();
    // A tab that follows another leaves that to it.
    if (!id || !reply || keeping.type === "following") return;
    const rows = reply.tables.reduce((sum, table) => sum + table.rowsIn, 0);
    const pictures = await this.builder.call?.look(LOOK.width, LOOK.height);
    await this.projects.keepLook({ project: id, rows, bytes, ...(pictures ? { pictures } : {}) });
  }

  /** Takes a finding's way out; of a text that is another by now, once it is known whether it still stands there. */
  async mend(finding: PlacedFinding) {
    if (!(await compiled(this))) return;
    const findings = this.state.get().reply?.findings ?? [];
    const { code, message } = finding;
    const same = findings.includes(finding)
      ? finding
      : findings.find((one) => one.code === code && one.message === message);
    this.edit(same?.fix?.edits);
  }

  /** The reader of the proof is at a piece: the sheet turns to it, without taking the keyboard away. */
  atPiece(name: string) {
    const { reply } = this.state.get();
    const group = reply?.controls.includes(name) ? "controls" : "charts";
    this.state.set({ hand: [group, name], marked: name, ...(group === "charts" ? { piece: name } : {}) });
  }

  /** Narrows the sheet to its spine at this station, or opens it. */
  fold(folded: boolean) {
    const { folds, station } = this.state.get();
    this.state.set({ folds: { ...folds, [station]: folded } });
  }

  setGround(ground: Ground) {
    document.documentElement.dataset.ground = ground;
    remember("ground", ground);
    this.state.set({ ground });
  }

  /** Exchanges the whole text, for going back to a version. */
  replaceAll(text: string, files: ReadonlyMap<string, string>) {
    const now = this.state.get();
    const changes: FileChange[] = [...files].map(([path, hash]) => ({ path, hash }));
    for (const path of now.files.keys()) if (!files.has(path)) changes.push({ path, hash: undefined });
    this.edit([{ start: 0, end: now.text.length, text }], changes, false);
  }

  undo() {
    this.travel(undo);
  }

  redo() {
    this.travel(redo);
  }

  private travel(way: typeof undo) {
    if (this.view) way(this.view);
    else way({ state: this.document, dispatch: (transaction) => this.changed(transaction) });
  }

  /** Brings a stretch of the sheet into sight, and selects it if asked. */
  show(start: number, end: number, focus = false) {
    const { view } = this;
    if (!view) return;
    const length = view.state.doc.length;
    const [from, to] = [Math.min(start, length), Math.min(end, length)];
    if (focus) {
      this.fold(false);
      view.dispatch({ selection: { anchor: from, head: to }, scrollIntoView: true });
      view.focus();
    } else view.dispatch({ selection: { anchor: from }, scrollIntoView: true });
  }

  /** Keeps bytes under their hash: in the browser's storage, or in memory where it refuses. */
  async keepBytes(bytes: Uint8Array): Promise<string> {
    const hash = await hashOf(bytes);
    const refused = await this.projects.keep(hash, bytes);
    if (refused) {
      this.memory.set(hash, bytes);
      this.state.set({ keeping: { type: "refused", reason: refused } });
    }
    return hash;
  }

  row(): ProjectRow {
    const { id, sheetName, text, files } = this.state.get();
    return { id, sheetName, text, files: [...files], changed: Date.now(), revision: 0 };
  }

  /**
   * Looks whether the browser still has what it has kept: its owner may clear it at any time. Bytes
   * that are in memory, here or with the compiler, are written again; others are named.
   */
  private async findLost() {
    const { id, files, keeping } = this.state.get();
    if (!id || keeping.type !== "saved") return;
    const lost = await this.projects.lost(id, [...files.values()]);
    if (!lost || id !== this.state.get().id) return;
    const gone: string[] = [];
    for (const [path, hash] of files) {
      if (!lost.hashes.has(hash)) continue;
      const bytes = this.memory.get(hash) ?? (await this.builder.call?.bytes(hash));
      if (bytes) await this.keepBytes(bytes);
      else gone.push(path);
    }
    if (lost.report) this.keeper?.keep(this.row());
    if (gone.length)
      this.state.set({
        keeping: { type: "refused", reason: `the browser has lost ${gone.join(", ")}; add the file again` },
      });
  }

  private keep() {
    const { files } = this.state.get();
    if ([...files.values()].some((hash) => this.memory.has(hash)))
      void this.retryBytes().then((kept) => kept && this.keeper?.keep(this.row()));
    this.keeper?.keep(this.row());
  }

  /** Tries again to keep what the browser had refused; answers whether all of it is kept now. */
  private async retryBytes(): Promise<boolean> {
    for (const [hash, bytes] of this.memory) {
      const refused = await this.projects.keep(hash, bytes);
      if (refused) {
        this.state.set({ keeping: { type: "refused", reason: refused } });
        return false;
      }
      this.memory.delete(hash);
    }
    return true;
  }

  /** Before a first change, and from time to time, the state is kept as a version. */
  private keepVersion({ text, files }: DeskState) {
    const now = Date.now();
    if (now - this.lastVersion < VERSION_EVERY) return;
    const note = this.lastVersion === 0 ? "as opened" : "on the way";
    this.lastVersion = now;
    void this.addVersion(note, text, files);
  }

  async addVersion(note: string, text = this.state.get().text, files = this.state.get().files) {
    const version: VersionRow = { project: this.state.get().id, made: Date.now(), note, text, files: [...files] };
    const refused = await this.projects.addVersion(version);
    if (refused) this.state.set({ notice: `this state was not kept as a version: ${refused}` });
  }

  private compile() {
    const { id, text, sheetName, files, held } = this.state.get();
    if (held) return;
    if (id) remember(markOf(id), "1");
    this.builder.ask({ text, sheetName, files });
  }
}
