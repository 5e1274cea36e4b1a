import type { PlainRow } from "../../core/chart/plain-row";
import type { DataTablePlan } from "../../core/chart/plan";
import { writeCount } from "../../core/formula/format";
import type { PlanPiece } from "../../core/plan/plan";
import { plainValue } from "../../core/query/categories";
import { writeAt, writeNumber } from "../../core/query/write";
import type { App, View } from "../app";
import { button, element } from "../dom";
import { emptyOffer } from "../empty-offer";
import type { Reader, TableState } from "../reader";
import { cellOf } from "./cells";
import { type ColumnPlace, columnHeads, type HeadActs, readColumns, writeColumns } from "./column-heads";
import { NO_ROWS, type ShownColumn, type ShownRows, shownRows } from "./columns";
import { ROW_PICKS, type RowPicks } from "./picks";
import { TAKE_WORDS, takeBy } from "./take";

/** Longer tables hold only the rows in sight; others are put there as the reader scrolls to them. */
const WINDOW = 120;
/** So many rows over and under those in sight are there too. */
const SPARE = 12;
const ROW_HEIGHT = 27;
/** Rows beyond this are hundreds of sheets of paper, and more than a browser can lay out at once. */
const MOST_PRINTED = 20_000;

const written = ({ channel, column }: ShownColumn, id: number) => writeAt(channel, column, id);

/** A data table: searched and sorted by the reader, all its rows in one scroll unless it has pages. */
export class TableView implements View, HeadActs {
  readonly name: string;
  private readonly rowsBox: HTMLElement;
  private readonly head = element("div", { class: "head-line" });
  private readonly search: HTMLInputElement;
  private readonly takes = element("span", { class: "takes" });
  private readonly foot = element("div", { class: "foot" });
  private readonly picks: RowPicks | undefined;
  private pageSize: number | "all" = "all";
  /** What of the rows is in sight, in pixels, as scrolling and changes of size have left it. */
  private seen = { top: 0, height: 0 };
  private page = 0;
  private pageIds: Int32Array = new Int32Array(0);
  private shownWidths: ReadonlyMap<string, number> = new Map();
  private now: ShownRows = NO_ROWS;

  constructor(
    private readonly app: App,
    piece: PlanPiece,
    section: HTMLElement,
  ) {
    this.name = piece.name;
    this.rowsBox = section.querySelector(".rows") as HTMLElement;
    this.search = element("input", {
      type: "search",
      placeholder: "search",
      "aria-label": `Search in ${app.model.titleOf(piece.name)}`,
    });
    this.search.addEventListener("input", () => this.searchFor(this.search.value));
    this.search.addEventListener("change", () => app.settle());
    this.head.append(this.search, element("span", { class: "space" }), this.takes);
    this.rowsBox.before(this.head);
    this.rowsBox.after(this.foot);
    this.rowsBox.tabIndex = 0;
    this.rowsBox.setAttribute("aria-label", `Rows of ${app.model.titleOf(piece.name)}`);
    this.rowsBox.setAttribute("role", "region");
    if (app.selectionsOf(this.name).length)
      this.picks = new (ROW_PICKS.get())(
        app,
        this.name,
        this.rowsBox,
        () => this.plan.query.grouped,
        (place) => this.reveal(place),
      );
    this.rowsBox.addEventListener("scroll", () => this.look());
    new ResizeObserver(() => this.look()).observe(this.rowsBox);
  }

  /** Sees what is in sight now, and puts the rows there. */
  private look() {
    if (this.app.printing) return;
    this.seen = { top: this.rowsBox.scrollTop, height: this.rowsBox.clientHeight };
    this.fillWindow();
    this.sayWhere();
  }

  /** Brings a row of the page into sight, between the head and the totals. */
  private reveal(place: number) {
    const { rowsBox } = this;
    if (!rowsBox.querySelector("[data-spacer]")) return;
    const heightOf = (part: string) => rowsBox.querySelector<HTMLElement>(part)?.offsetHeight ?? 0;
    const least = (place + 1) * ROW_HEIGHT + heightOf("thead") + heightOf("tfoot") - rowsBox.clientHeight;
    const wanted = Math.max(least, Math.min(place * ROW_HEIGHT, rowsBox.scrollTop));
    if (wanted === rowsBox.scrollTop) return;
    rowsBox.scrollTop = wanted;
    this.look();
  }

  /** Puts rows in place of others; where they can be picked, the keyboard stays at its own. */
  private redraw(put: () => void) {
    if (this.picks) this.picks.keepFocus(put);
    else put();
  }

  /** The table under the settings as they are. */
  private get plan(): DataTablePlan {
    return this.app.model.piece(this.name)?.plan as DataTablePlan;
  }

  private shown(): ShownRows {
    return shownRows(this.app, this.name, this.plan, written);
  }

  rows(most?: number): PlainRow[] {
    const { columns, ids } = this.shown();
    return Array.from(ids.slice(0, most), (id) =>
      Object.fromEntries(columns.map(({ key, column }) => [key, plainValue(column, id)])),
    );
  }

  private get state(): Readonly<TableState> {
    return this.app.reader.tableOf(this.name);
  }

  private arrange(changes: Parameters<Reader["arrange"]>[1]) {
    this.app.reader.arrange(this.name, changes);
    this.app.touch(this.name);
  }

  private searchFor(text: string) {
    this.arrange({ search: text.trim() && text, page: undefined });
  }

  sort(key: string) {
    const now = this.state.sort;
    this.arrange({ sort: now === key ? `-${key}` : now === `-${key}` ? undefined : key, page: undefined });
    this.app.settle();
    // The head was made anew; the keyboard stays on it.
    this.rowsBox.querySelector<HTMLElement>(`th button[data-key="${CSS.escape(key)}"]`)?.focus();
  }

  draw() {
    this.now = this.shown();
    const { columns, ids } = this.now;
    this.shownWidths = this.widths();
    const { sort, search = "", page, length } = this.state;
    this.page = Math.max(0, Math.trunc(Number(page) || 1) - 1);
    const lengths = this.plan.pages;
    this.pageSize = lengths.find((one) => String(one) === length) ?? lengths[0] ?? "all";
    this.rowsBox.classList.toggle("whole", this.pageSize === "all");
    if (document.activeElement !== this.search) this.search.value = search;
    const isPrinting = this.app.printing;
    const size = isPrinting ? MOST_PRINTED : this.pageSize === "all" ? Math.max(1, ids.length) : this.pageSize;
    const pages = Math.max(1, Math.ceil(ids.length / size));
    if (!isPrinting) this.page = Math.min(this.page, pages - 1);
    const from = isPrinting ? 0 : this.page * size;
    this.pageIds = ids.slice(from, from + size);
    this.picks?.follow(this.now, this.pageIds);
    const body = element("tbody");
    const role: Record<string, string> = this.picks ? { "aria-multiselectable": "true", role: "grid" } : {};
    const table = element("table", role, columnHeads(columns, sort, this.shownWidths, this), body);
    const totals = this.totals(columns, ids);
    if (totals) table.append(element("tfoot", {}, totals));
    this.redraw(() => {
      this.rowsBox.replaceChildren(table);
      this.drawRows(body);
    });
    // Where nothing was scrolled there is nothing to lay out for it.
    if (this.seen.top > 0) this.rowsBox.scrollTop = this.seen.top;
    if (isPrinting && ids.length > size) {
      const words = `… the first ${writeCount(size)} of ${writeCount(ids.length)} rows; all of them can be taken as CSV`;
      body.append(element("tr", {}, element("td", { colspan: String(columns.length) }, words)));
    }
    this.drawTakes(ids.length);
    this.drawFoot(pages);
  }

  /** How wide readers have made columns, by their keys. */
  private widths(): Map<string, number> {
    const places = readColumns(this.state.columns);
    return new Map(places.flatMap(({ key, width }) => (width ? [[key, width] as const] : [])));
  }

  /** The columns as they stand, for a change of their order or width. */
  private places(): ColumnPlace[] {
    const widths = this.widths();
    return this.now.columns.map(({ key }) => ({
      key,
      ...(widths.has(key) ? { width: widths.get(key) as number } : {}),
    }));
  }

  private place(places: readonly ColumnPlace[], focused: string) {
    this.arrange({ columns: writeColumns(places) });
    this.app.settle();
    this.rowsBox.querySelector<HTMLElement>(focused)?.focus();
  }

  move(key: string, before: string | undefined) {
    const places = this.places();
    const own = places.find((one) => one.key === key);
    if (!own) return;
    const rest = places.filter((one) => one !== own);
    const at = rest.findIndex((one) => one.key === before);
    rest.splice(at < 0 ? rest.length : at, 0, own);
    this.place(rest, `th button[data-key="${CSS.escape(key)}"]`);
  }

  widen(key: string, width: number) {
    const places = this.places().map((one) => (one.key === key ? { key, width } : one));
    this.place(places, `th:has(button[data-key="${CSS.escape(key)}"]) .edge`);
  }

  /** Sums of those columns whose values add up, over all rows that pass. */
  private totals(columns: readonly ShownColumn[], ids: Int32Array): HTMLElement | undefined {
    if (!this.plan.totals) return undefined;
    const cells = columns.map(({ channel, column, adds }, at) => {
      if (column.kind === "text" || !adds) return element("td", {}, at === 0 ? "all" : "");
      let sum = 0;
      for (const id of ids) {
        const value = column.values[id] as number;
        if (value === value) sum += value;
      }
      return element("td", { class: "number" }, writeNumber(channel, sum));
    });
    return element("tr", {}, ...cells);
  }

  private drawRows(body: HTMLElement) {
    if (this.pageIds.length === 0) {
      const cell = element(
        "td",
        { colspan: String(this.now.columns.length) },
        this.app.model.emptyText(this.name) ?? emptyOffer(this.app, this.name) ?? "No rows pass",
      );
      body.append(element("tr", {}, cell));
    } else if (this.pageIds.length <= WINDOW || this.app.printing) {
      for (const id of this.pageIds) body.append(this.row(id));
    } else {
      body.append(this.spacer(0), this.spacer(0));
      this.fillWindow();
    }
  }

  private spacer(rows: number): HTMLElement {
    const spacer = element("tr", { "aria-hidden": "true", "data-spacer": "" });
    spacer.style.height = `${rows * ROW_HEIGHT}px`;
    return spacer;
  }

  /** Only the rows in sight stand in the page; two empty rows keep the scroll bar honest. */
  private fillWindow() {
    const body = this.rowsBox.querySelector("tbody");
    if (!body?.querySelector("[data-spacer]")) return;
    const { top, height } = this.seen;
    const first = Math.max(0, Math.min(this.pageIds.length, Math.floor(top / ROW_HEIGHT)) - SPARE);
    const last = Math.min(this.pageIds.length, first + Math.ceil(height / ROW_HEIGHT) + 2 * SPARE);
    this.redraw(() =>
      body.replaceChildren(
        this.spacer(first),
        ...Array.from(this.pageIds.subarray(first, last), (id) => this.row(id)),
        this.spacer(this.pageIds.length - last),
      ),
    );
  }

  private row(id: number): HTMLElement {
    const cells = this.now.columns.map((column) => {
      const cell = cellOf(column, id, this.app);
      const width = this.shownWidths.get(column.key);
      if (width !== undefined) cell.style.maxWidth = `${width}px`;
      return cell;
    });
    const row = element("tr", {}, ...cells);
    this.picks?.dress(row, id);
    return row;
  }

  private turn(page: number) {
    this.arrange({ page: page > 0 ? String(page + 1) : undefined });
    this.rowsBox.scrollTop = 0;
    this.app.settle();
  }

  /** All rows that pass, for those who take them elsewhere. */
  taking() {
    return { rows: this.shown(), ways: this.plan.take.filter((way) => way !== "print") };
  }

  /** All rows that pass, in the order shown, by the first way that the sheet allows. */
  take() {
    const [first] = this.plan.take;
    if (first) takeBy(first)(this.app, this.name, this.shown());
  }

  private drawTakes(count: number) {
    const ways = count ? this.plan.take : [];
    const words = ways.map((way) =>
      button(TAKE_WORDS[way], () => takeBy(way)(this.app, this.name, this.shown()), { class: "plain" }),
    );
    this.takes.replaceChildren(
      ...(words.length ? [`take all ${writeCount(count)}: `] : []),
      ...words.flatMap((word, at) => (at ? [" ", word] : [word])),
    );
  }

  private readonly where = element("span");

  /** Which rows are in sight, and of how many. */
  private sayWhere() {
    const count = this.now.ids.length;
    const start = this.pageSize === "all" ? 0 : this.page * this.pageSize;
    // Of the box the head takes a row, and so do totals.
    const beside = this.plan.totals ? 2 : 1;
    const seen = Math.max(1, Math.floor(this.seen.height / ROW_HEIGHT) - beside);
    const { height } = this.seen;
    const isHigher =
      this.pageSize === "all" && height > 0 && (this.pageIds.length + beside - 0.5) * ROW_HEIGHT > height;
    const isScroll = (this.pageIds.length > WINDOW || isHigher) && !this.app.printing;
    const first = start + (isScroll ? Math.floor(this.seen.top / ROW_HEIGHT) : 0);
    const last = isScroll ? Math.min(start + this.pageIds.length, first + seen) : start + this.pageIds.length;
    const places = first + 1 < last ? `${writeCount(first + 1)}–${writeCount(last)}` : writeCount(last);
    this.where.textContent = count ? `${places} of ${writeCount(count)} rows` : "0 rows";
  }

  private drawFoot(pages: number) {
    this.sayWhere();
    const parts: (Node | string)[] = [this.where];
    if (pages > 1) {
      const before = button("before", () => this.turn(this.page - 1), { class: "plain" });
      const after = button("next", () => this.turn(this.page + 1), { class: "plain" });
      before.disabled = this.page === 0;
      after.disabled = this.page === pages - 1;
      parts.push(before, after);
    }
    if (this.plan.pages.length > 1) parts.push(this.pageSizes());
    this.foot.replaceChildren(...parts);
  }

  private pageSizes(): HTMLElement {
    const options = this.plan.pages.map((page) => {
      const words = page === "all" ? "all rows" : `${page} a page`;
      return element("option", { value: String(page), ...(page === this.pageSize ? { selected: "" } : {}) }, words);
    });
    const select = element("select", { "aria-label": "Rows a page" }, ...options);
    select.addEventListener("change", () => {
      this.arrange({ length: select.value === String(this.plan.pages[0]) ? undefined : select.value });
      this.turn(0);
    });
    return select;
  }
}
