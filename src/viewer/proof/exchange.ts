import type { Plan } from "../../core/plan/plan";
import { AnswerCache } from "../../core/query/cache";
import type { Column } from "../../core/table/column";
import { receivedColumn, type SentColumn } from "../../core/table/sent-column";
import { makeTable, type Table } from "../../core/table/table";
import type { Dashboard } from "../dashboard";
import { reopen } from "../reopen";
import { rowsLeft } from "./rows-left";

/** Another state of the report: its plan, its page without pictures, and its columns by number. */
export interface ProofUpdate {
  plan: Plan;
  seal: string;
  body: string;
  css: string;
  onScreen: boolean;
  pictures: Readonly<Record<string, string>>;
  /** For each table its columns with a number that stays while their values stay the same. */
  tables: { name: string; rowCount: number; columns: { name: string; stamp: number }[] }[];
}

/** Columns that a proof does not have yet, by their numbers. */
export type ProofColumns = [stamp: number, column: SentColumn][];

/** What a proof answers to an update: that it stands, which columns it needs first, or why it cannot take it. */
export type ProofAnswer =
  | { stillHarbor: "taken" }
  | { stillHarbor: "needs"; stamps: number[] }
  | { stillHarbor: "failed"; problem: string };

/** Rows of a piece that a digest looks at; of longer ones these many from the beginning, and how many there are. */
const DIGESTED = 2000;

/**
 * Takes other states of a report without loading a document: columns that did not change are kept, and
 * so is what charts were answered over them. At rest the file itself takes the place of all this.
 */
export class Exchange {
  private columns = new Map<number, Column>();
  private tables = new Map<string, Table>();
  private readonly answers = new AnswerCache();
  private css: string | undefined;
  /** The state that stands here, as it was told. */
  private told: string | undefined;

  constructor(
    public current: Dashboard,
    private readonly exchanged: (next: Dashboard) => void,
  ) {}

  /** Says which of the numbers the columns of the file that stands here have. */
  knows(update: ProofUpdate) {
    this.told = JSON.stringify(update);
    const { tables } = update;
    for (const { name, columns } of tables) {
      const table = this.current.app.model.engine.packed.get(name);
      for (const { name: column, stamp } of columns) {
        const own = table?.columns.get(column);
        if (own) this.columns.set(stamp, own);
      }
    }
  }

  take(update: ProofUpdate, given: ProofColumns = []): ProofAnswer {
    // Most keys of a comment, and many of a name that is being typed, change nothing that is seen.
    const told = JSON.stringify(update);
    if (told === this.told) return { stillHarbor: "taken" };
    for (const [stamp, column] of given) this.columns.set(stamp, receivedColumn(column));
    const wanted = update.tables.flatMap(({ columns }) => columns.map(({ stamp }) => stamp));
    const needs = wanted.filter((stamp) => !this.columns.has(stamp));
    if (needs.length) return { stillHarbor: "needs", stamps: needs };
    try {
      this.exchange(update);
    } catch (problem) {
      return { stillHarbor: "failed", problem: problem instanceof Error ? problem.message : String(problem) };
    }
    // Columns that nothing asked for this time are forgotten.
    const asked = new Set(wanted);
    for (const stamp of this.columns.keys()) if (!asked.has(stamp)) this.columns.delete(stamp);
    this.told = told;
    return { stillHarbor: "taken" };
  }

  private exchange(update: ProofUpdate) {
    this.answers.next();
    const tables = new Map(update.tables.map((table) => [table.name, this.tableOf(table)]));
    this.tables = tables;
    const loaded = { plan: update.plan, tables, seal: update.seal, pictures: update.pictures };
    const lay = () => {
      this.dress(update);
      document.documentElement.classList.toggle("screen-page", update.onScreen);
      // Written by our own functions from escaped words, as the page of a file is.
      document.body.insertAdjacentHTML("afterbegin", update.body);
    };
    this.current = reopen(this.current, loaded, lay, this.answers.answer);
    this.exchanged(this.current);
  }

  /** A table of the columns that are asked for; the same object as before where all of them are the same. */
  private tableOf({ name, rowCount, columns }: ProofUpdate["tables"][number]): Table {
    const before = this.tables.get(name) ?? this.current.app.model.engine.packed.get(name);
    const own = columns.map((column): [string, Column] => [column.name, this.columns.get(column.stamp) as Column]);
    const isSame =
      before !== undefined &&
      before.columns.size === own.length &&
      own.every(([column, values]) => before.columns.get(column) === values);
    return isSame ? before : makeTable(rowCount, own);
  }

  /** Puts other rules in the place of the page's own; the policy lets them in this way alone. */
  private dress({ css }: ProofUpdate) {
    if (css === this.css) return;
    this.css = css;
    const sheet = new CSSStyleSheet();
    sheet.replaceSync(css);
    document.adoptedStyleSheets = [sheet];
    for (const style of document.querySelectorAll("head > style")) style.remove();
  }

  /** What everything shows now, in few characters: by it two proofs of one state are compared. */
  digest(): string {
    const { api, app } = this.current;
    const rows = app.plan.pieces.map(({ name }) => [name, app.views.get(name)?.rows?.(DIGESTED)?.slice(0, DIGESTED)]);
    return hashed(JSON.stringify([rows, rowsLeft(app), api.counts(), api.state()]));
  }
}

/** A number for a text, by Fowler, Noll and Vo (FNV-1a, 32 bits), beside its length. */
function hashed(text: string): string {
  let hash = 0x811c9dc5;
  for (let at = 0; at < text.length; at++) hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193);
  return `${text.length}-${(hash >>> 0).toString(16)}`;
}
