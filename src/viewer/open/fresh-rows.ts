import { listed } from "../../core/finding/nearest";
import { withGivenRows } from "../../core/model/given-rows";
import { type GivenRows, readGivenFile, readGivenRows } from "../../core/model/read-given";
import type { OpensPlan, OpenTable } from "../../core/plan/plan";
import { endingOf, TEXT_READERS } from "../../core/read/text-readers";
import type { Table } from "../../core/table/table";
import type { Dashboard, Loaded } from "../dashboard";
import { element } from "../dom";
import { reopen } from "../reopen";
import { DECODED, type FreshRows } from "./kit";

const PAGE = "body > header, body > main, body > footer";

/** What this dashboard can read, by the endings of files. */
const readers = () => ({
  ...TEXT_READERS,
  ...(DECODED.has("xlsx") ? { xlsx: DECODED.get("xlsx").read } : {}),
});

/** Rows that a reader has put in, and what they are called. */
interface Put {
  table: Table;
  from: string;
  unread: string[];
}

/**
 * A dashboard whose rows a reader may exchange: files dropped on the page or chosen, or rows of a script.
 * Each time it begins anew, on the page as it was written, with the reader's state.
 */
export class Opening implements FreshRows {
  private readonly opens: OpensPlan;
  private readonly page: readonly Element[];
  private readonly given = new Map<string, Put>();
  private current: Dashboard | undefined;
  private exchanged: (next: Dashboard) => void = () => undefined;
  private times = 0;

  constructor(private readonly loaded: Loaded) {
    this.opens = loaded.plan.opens as OpensPlan;
    // Before anything answers, what stands on the page is what was written.
    this.page = [...document.querySelectorAll(PAGE)].map((part) => part.cloneNode(true) as Element);
  }

  begin(first: Dashboard, exchanged: (next: Dashboard) => void) {
    this.current = first;
    this.exchanged = exchanged;
    const over = (event: DragEvent, on: boolean) => {
      if (!event.dataTransfer?.types.includes("Files")) return;
      event.preventDefault();
      document.body.classList.toggle("takes-file", on);
    };
    document.addEventListener("dragover", (event) => over(event, true));
    document.addEventListener("dragleave", (event) => {
      if (event.relatedTarget === null) over(event, false);
    });
    document.addEventListener("drop", (event) => {
      over(event, false);
      void this.takeFiles(event.dataTransfer?.files);
    });
  }

  put(name: string, rows: readonly object[]) {
    const opened = Object.hasOwn(this.opens.tables, name) ? this.opens.tables[name] : undefined;
    if (!opened)
      throw new RangeError(`no rows can be put into "${name}"; there are ${listed(Object.keys(this.opens.tables))}`);
    if (!Array.isArray(rows) || rows.some((row) => typeof row !== "object" || row === null))
      throw new RangeError("put takes a list of objects, one for each row");
    const given = readGivenRows(name, opened, rows);
    if ("problem" in given) throw new RangeError(given.problem);
    this.given.set(name, { ...given, from: "this page's script" });
    this.show();
  }

  readonly choose = () => {
    const kinds = Object.keys(readers()).map((kind) => `.${kind}`);
    const field = element("input", { type: "file", multiple: "", accept: kinds.join(",") });
    field.addEventListener("change", () => void this.takeFiles(field.files));
    field.click();
  };

  private async takeFiles(files: FileList | null | undefined) {
    for (const file of files ?? []) {
      const bytes = new Uint8Array(await file.arrayBuffer());
      const ending = endingOf(file.name);
      if (DECODED.has(ending)) await DECODED.get(ending).decode(bytes);
      const problem = this.takeFile(file.name, bytes);
      if (problem !== undefined) return this.tell(problem);
    }
  }

  /** Puts a file in the place of the table of its name, or else of that with most columns which it has all of. */
  private takeFile(file: string, bytes: Uint8Array): string | undefined {
    const width = ({ columns }: OpenTable) => Object.keys(columns).length;
    const names = Object.entries(this.opens.tables).sort(
      ([, a], [, b]) => Number(b.file === file) - Number(a.file === file) || width(b) - width(a),
    );
    let problem: string | undefined;
    for (const [name, opened] of names) {
      const given: GivenRows = readGivenFile(name, opened, file, bytes, readers());
      if ("problem" in given) {
        problem ??= given.problem;
        continue;
      }
      this.given.set(name, { ...given, from: file });
      this.show();
      return undefined;
    }
    return problem;
  }

  /** Says what stands in the way; the rows stay as they are. */
  private tell(problem: string) {
    const { app } = this.current as Dashboard;
    app.tell(problem);
    app.say(problem);
  }

  private back() {
    this.given.clear();
    this.show();
  }

  /** Begins anew with the rows as they were put in. */
  private show() {
    const { plan, tables, seal, pictures } = this.loaded;
    const given = new Map([...this.given].map(([name, { table }]) => [name, table]));
    const own = given.size ? withGivenRows(plan, tables, given) : { plan, tables };
    this.times += 1;
    const next: Loaded = {
      ...own,
      pictures,
      chooseRows: this.choose,
      // Rows that are known by their numbers alone are not those of other rows.
      seal: given.size ? `${seal}-${this.times}` : seal,
      ...(given.size ? { fresh: { says: this.words(), back: () => this.back() } } : {}),
    };
    this.current = reopen(this.current as Dashboard, next, () => {
      document.body.prepend(...this.page.map((part) => part.cloneNode(true)));
      if (given.size) document.querySelector(".made details > div")?.prepend(element("p", {}, `${this.words()}.`));
    });
    this.exchanged(this.current);
    this.current.app.say(given.size ? this.words() : "the report's own rows are back");
  }

  private words(): string {
    const parts = [...this.given].map(([name, { table, from, unread }]) => {
      const noun = this.loaded.plan.tables.find((one) => one.name === name)?.label ?? name.replaceAll("_", " ");
      return `${table.rowCount} rows of ${noun} from ${from}${unread.length ? ` (${unread.join("; ")})` : ""}`;
    });
    return `Not the report's own rows: ${parts.join(", ")}`;
  }
}
