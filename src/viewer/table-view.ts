import type { PlainRow } from "../core/chart/plain-row";
import type { DataTablePlan } from "../core/chart/plan";
import { writeCount } from "../core/formula/format";
import type { PlanPiece } from "../core/plan/plan";
import { plainValue } from "../core/query/categories";
import type { Channel } from "../core/query/query";
import { LayerValues } from "../core/query/values";
import { writeAt } from "../core/query/write";
import type { Column } from "../core/table/column";
import { ranks, sortedRows } from "../core/table/compare";
import { type App, NOT_PICKED, type View } from "./app";
import { csvText } from "./csv";
import { button, download, element } from "./dom";

interface ShownColumn {
  key: string;
  channel: Channel;
  column: Column;
}

const LONGEST_CELL = 200;
/** Pictures that stand in the cell itself; an address elsewhere is shown as text, for nothing is fetched. */
const PICTURE = /^data:image\/(?:png|jpeg|gif|webp|avif|svg\+xml)[;,]/;
/** Rows beyond this are put into the page as the reader scrolls to them. */
const WINDOW = 120;
const ROW_HEIGHT = 27;
/** Rows beyond this are hundreds of sheets of paper, and more than a browser can lay out at once. */
const MOST_PRINTED = 20_000;

/** A data table: sorted by its heads, page by page, rows picked where a link says so. */
export class TableView implements View {
  readonly name: string;
  private readonly rowsBox: HTMLElement;
  private readonly foot = element("div", { class: "foot" });
  private pageSize: number | "all";
  private page = 0;
  private picks: boolean;
  /** Where the keyboard stands among the rows of the page. */
  private active = 0;
  private pageIds: Int32Array = new Int32Array(0);
  /** Of the rows as they stand now, see {@link baseRow}; nothing while no row above is left out. */
  private baseRows: Int32Array | undefined;

  constructor(
    private readonly app: App,
    piece: PlanPiece,
    section: HTMLElement,
  ) {
    this.name = piece.name;
    this.rowsBox = section.querySelector(".rows") as HTMLElement;
    this.rowsBox.after(this.foot);
    this.rowsBox.tabIndex = 0;
    this.rowsBox.setAttribute("aria-label", `Rows of ${piece.words.title}`);
    this.rowsBox.setAttribute("role", "region");
    this.pageSize = this.plan.pages[0] ?? 25;
    this.picks = app
      .selectionsOf(this.name)
      .some(({ gesture }) => gesture === "rows" || gesture === "click" || gesture === "hover");
    this.rowsBox.addEventListener("pointerleave", () => this.holdRow(undefined));
    this.rowsBox.addEventListener("focusout", () => this.holdRow(undefined));
    this.rowsBox.addEventListener("scroll", () => this.fillWindow());
    this.rowsBox.addEventListener("keydown", (event) => this.key(event));
  }

  /** The table under the settings as they are. */
  private get plan(): DataTablePlan {
    return this.app.model.piece(this.name)?.plan as DataTablePlan;
  }

  private shown(): { columns: ShownColumn[]; ids: Int32Array } {
    const found = this.app.model.plainAnswer(this.name);
    if (!found) return { columns: [], ids: new Int32Array(0) };
    const values = new LayerValues(found.answer, found.all);
    const columns = this.plan.columns.map(({ channel, key }) => ({
      key,
      channel: this.plan.query.channels[channel] as Channel,
      column: values.get(channel) as Column,
    }));
    const { counts, prepared } = found.answer;
    this.baseRows = this.picks ? this.app.model.engine.baseRows(prepared.table) : undefined;
    const ids = new Int32Array(counts.length);
    let count = 0;
    for (let id = 0; id < counts.length; id++)
      if ((counts[id] as number) > 0 && (prepared.query.grouped || (prepared.groups[id] as number) >= 0))
        ids[count++] = id;
    return { columns, ids: this.sorted(columns, ids.slice(0, count)) };
  }

  private sorted(columns: readonly ShownColumn[], ids: Int32Array): Int32Array {
    const sort = this.app.tables.get(this.name)?.sort;
    if (!sort) return ids;
    const descending = sort.startsWith("-");
    const column = columns.find(({ key }) => key === (descending ? sort.slice(1) : sort));
    if (!column) return ids;
    const all = ranks(column.column, column.channel.order);
    const keys = Float64Array.from(ids, (id) => all[id] as number);
    return sortedRows(ids.length, [keys], [descending]).map((place) => ids[place] as number);
  }

  rows(): PlainRow[] {
    const { columns, ids } = this.shown();
    return Array.from(ids, (id) => Object.fromEntries(columns.map(({ key, column }) => [key, plainValue(column, id)])));
  }

  private state() {
    const state = this.app.tables.get(this.name) ?? {};
    this.app.tables.set(this.name, state);
    return state;
  }

  private sortBy(key: string) {
    const state = this.state();
    state.sort = state.sort === key ? `-${key}` : state.sort === `-${key}` ? "" : key;
    if (!state.sort) delete state.sort;
    this.page = 0;
    this.app.touch(this.name);
    this.app.settle();
    // The head was made anew; the keyboard stays on it.
    this.rowsBox.querySelector<HTMLElement>(`th button[data-key="${CSS.escape(key)}"]`)?.focus();
  }

  draw() {
    const { columns, ids } = this.shown();
    const size = this.app.printing ? MOST_PRINTED : this.pageSize === "all" ? Math.max(1, ids.length) : this.pageSize;
    const pages = Math.max(1, Math.ceil(ids.length / size));
    if (!this.app.printing) this.page = Math.min(this.page, pages - 1);
    const from = this.app.printing ? 0 : this.page * size;
    this.pageIds = ids.slice(from, from + size);
    const sort = this.app.tables.get(this.name)?.sort;
    const heads = columns.map(({ key, channel, column }) => {
      const direction = sort === key ? "ascending" : sort === `-${key}` ? "descending" : "none";
      const words = channel.unit ? `${channel.label}, ${channel.unit}` : channel.label;
      const head = element("th", {
        scope: "col",
        "aria-sort": direction,
        ...(column.kind === "text" ? {} : { class: "number" }),
      });
      head.append(
        button(
          direction === "ascending" ? `${words} ↑` : direction === "descending" ? `${words} ↓` : words,
          () => this.sortBy(key),
          { "data-key": key },
        ),
      );
      return head;
    });
    const body = element("tbody");
    this.rowsBox.replaceChildren(
      element(
        "table",
        this.picks ? { "aria-multiselectable": "true", role: "grid" } : {},
        element("thead", {}, element("tr", {}, ...heads)),
        body,
      ),
    );
    this.drawRows(body, columns);
    if (this.app.printing && ids.length > size)
      body.append(
        element(
          "tr",
          {},
          element(
            "td",
            { colspan: String(columns.length) },
            `… the first ${writeCount(size)} of ${writeCount(ids.length)} rows; all of them can be taken as CSV`,
          ),
        ),
      );
    this.drawFoot(ids.length, from, size, pages);
  }

  private columnsNow: ShownColumn[] = [];

  private drawRows(body: HTMLElement, columns: ShownColumn[]) {
    this.columnsNow = columns;
    if (this.pageIds.length === 0) {
      body.append(element("tr", {}, element("td", { colspan: String(columns.length) }, "No rows pass")));
      return;
    }
    if (this.pageIds.length <= WINDOW || this.app.printing) {
      for (const id of this.pageIds) body.append(this.row(id));
      return;
    }
    body.append(this.spacer(0), this.spacer(0));
    this.fillWindow();
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
    const first = Math.max(0, Math.floor(this.rowsBox.scrollTop / ROW_HEIGHT) - 20);
    const last = Math.min(this.pageIds.length, first + WINDOW);
    body.replaceChildren(
      this.spacer(first),
      ...Array.from(this.pageIds.subarray(first, last), (id) => this.row(id)),
      this.spacer(this.pageIds.length - last),
    );
  }

  private row(id: number): HTMLElement {
    const row = element("tr");
    for (const { channel, column } of this.columnsNow) {
      const text = writeAt(channel, column, id);
      const cell = element(
        "td",
        column.kind === "text" ? {} : { class: "number" },
        text.length > LONGEST_CELL ? `${text.slice(0, LONGEST_CELL)}…` : text,
      );
      if (channel.image && PICTURE.test(text)) {
        const picture = element("img", { alt: "" });
        picture.src = text;
        cell.replaceChildren(picture);
      } else if (text.length > 20) cell.title = text.slice(0, 2000);
      row.append(cell);
    }
    if (this.picks) {
      row.setAttribute("aria-selected", String(this.isPicked(id)));
      row.tabIndex = this.pageIds[this.active] === id ? 0 : -1;
      row.dataset.id = String(id);
      row.addEventListener("pointerenter", () => this.holdRow(id));
      row.addEventListener("focus", () => this.holdRow(id));
      row.addEventListener("click", (event) => this.pick(id, event.shiftKey || event.ctrlKey || event.metaKey));
    }
    return row;
  }

  private isPicked(id: number): boolean {
    return this.app.selectionsOf(this.name).some((selection) => {
      if (selection.gesture === "hover") return false;
      const state = this.app.model.engine.state(selection.name);
      if (state?.rows) return state.rows.includes(this.baseRow(id));
      return state?.keys?.some((key) => JSON.stringify(key) === JSON.stringify(this.keyOf(id))) ?? false;
    });
  }

  /** A row's number in its table with no selection on: picked rows stay the same rows whatever else is left out. */
  private baseRow(id: number): number {
    return this.baseRows ? (this.baseRows[id] as number) : id;
  }

  /** The keys of a grouped table's row, by the texts of its grouping channels. */
  private keyOf(id: number): Record<string, ReturnType<typeof plainValue>> {
    return Object.fromEntries(
      this.columnsNow
        .filter(({ channel }) => !channel.aggregate)
        .map(({ channel, column }) => [channel.text, plainValue(column, id)]),
    );
  }

  /** The row under the pointer, or on which the keyboard stands, is what a `hover` link selects. */
  private holdRow(id: number | undefined) {
    for (const selection of this.app.selectionsOf(this.name)) {
      if (selection.gesture !== "hover") continue;
      const row = id === undefined ? -1 : this.baseRow(id);
      if (id === undefined || row < 0) this.app.hold(selection.name, undefined);
      else this.app.hold(selection.name, this.plan.query.grouped ? { keys: [this.keyOf(id)] } : { rows: [row] });
    }
  }

  private pick(id: number, add: boolean) {
    const { grouped } = this.plan.query;
    for (const selection of this.app.selectionsOf(this.name)) {
      if (selection.gesture !== "rows" && selection.gesture !== "click") continue;
      const before = this.app.model.engine.state(selection.name);
      if (!grouped) {
        const had = before?.rows ?? [];
        const picked = this.baseRow(id);
        if (picked < 0) {
          this.app.say(NOT_PICKED);
          continue;
        }
        const rows = had.includes(picked) ? had.filter((row) => row !== picked) : add ? [...had, picked] : [picked];
        this.app.select(selection.name, rows.length ? { rows } : undefined);
      } else {
        const key = this.keyOf(id);
        const had = before?.keys ?? [];
        const rest = had.filter((other) => JSON.stringify(other) !== JSON.stringify(key));
        const keys = rest.length < had.length ? rest : add ? [...had, key] : [key];
        this.app.select(selection.name, keys.length ? { keys } : undefined);
      }
    }
    this.app.settle();
    this.rowsBox.querySelector<HTMLElement>(`tr[data-id="${id}"]`)?.focus();
  }

  private key(event: KeyboardEvent) {
    if (!this.picks || !(event.target as HTMLElement).matches("tr")) return;
    const id = Number((event.target as HTMLElement).dataset.id);
    const place = this.pageIds.indexOf(id);
    const next = event.key === "ArrowDown" ? place + 1 : event.key === "ArrowUp" ? place - 1 : undefined;
    if (event.key === "Enter" || event.key === " ") {
      event.preventDefault();
      this.pick(id, event.shiftKey);
    } else if (next !== undefined && next >= 0 && next < this.pageIds.length) {
      event.preventDefault();
      this.active = next;
      const row = this.rowsBox.querySelector<HTMLElement>(`tr[data-id="${this.pageIds[next]}"]`);
      for (const other of this.rowsBox.querySelectorAll<HTMLElement>("tr[data-id]")) other.tabIndex = -1;
      if (row) {
        row.tabIndex = 0;
        row.focus();
      }
    }
  }

  private turn(page: number) {
    this.page = page;
    this.rowsBox.scrollTop = 0;
    this.app.touch(this.name);
    this.app.flush();
  }

  private drawFoot(count: number, from: number, size: number, pages: number) {
    const shownTo = Math.min(count, from + size);
    const parts: (Node | string)[] = [
      element(
        "span",
        {},
        count ? `${writeCount(from + 1)}–${writeCount(shownTo)} of ${writeCount(count)} rows` : "0 rows",
      ),
    ];
    if (pages > 1) {
      const before = button("before", () => this.turn(this.page - 1), { class: "plain" });
      const after = button("next", () => this.turn(this.page + 1), { class: "plain" });
      before.disabled = this.page === 0;
      after.disabled = this.page === pages - 1;
      parts.push(before, after);
    }
    if (this.plan.pages.length > 1) {
      const select = element(
        "select",
        { "aria-label": "Rows a page" },
        ...this.plan.pages.map((page) =>
          element(
            "option",
            { value: String(page), ...(page === this.pageSize ? { selected: "" } : {}) },
            page === "all" ? "all rows" : `${page} a page`,
          ),
        ),
      );
      select.addEventListener("change", () => {
        this.pageSize = select.value === "all" ? "all" : Number(select.value);
        this.turn(0);
      });
      parts.push(select);
    }
    parts.push(element("span", { class: "space" }));
    if (this.plan.take.includes("csv") && count)
      parts.push(
        element(
          "span",
          {},
          `take all ${writeCount(count)}: `,
          button("CSV", () => this.save(), { class: "plain" }),
        ),
      );
    this.foot.replaceChildren(...parts);
  }

  /** All rows that pass, in the order shown: never only the page on screen. */
  private save() {
    const { columns, ids } = this.shown();
    const text = csvText(
      columns.map(({ key }) => key),
      (function* rows() {
        for (const id of ids) yield columns.map(({ column }) => plainValue(column, id));
      })(),
    );
    download(`${this.name}.csv`, text, "text/csv;charset=utf-8");
  }
}
