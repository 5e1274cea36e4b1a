import { writeCount } from "../../core/formula/format";
import type { App } from "../app";
import { button, element } from "../dom";
import { cellOf } from "../table/cells";
import type { ShownRows } from "../table/columns";
import { headOf, takeBy } from "../table/take";

/** Of more rows only the first are shown; all of them can be taken. */
const MOST_SHOWN = 500;

/** Shows rows as a table over the page, with the ways to take them. */
export function lookIn(app: App, title: string, name: string, rows: ShownRows) {
  const { columns, ids } = rows;
  const heads = columns.map(({ channel, column }) =>
    element("th", { scope: "col", ...(column.kind === "text" ? {} : { class: "number" }) }, headOf(channel)),
  );
  const body = Array.from(ids.subarray(0, MOST_SHOWN), (id) =>
    element("tr", {}, ...columns.map((column) => cellOf(column, id, app))),
  );
  const table = element("table", {}, element("thead", {}, element("tr", {}, ...heads)), element("tbody", {}, ...body));
  const count =
    ids.length > MOST_SHOWN
      ? `the first ${writeCount(MOST_SHOWN)} of ${writeCount(ids.length)} rows`
      : `${writeCount(ids.length)} rows`;
  const dialog = element("dialog", { class: "look-in", "aria-label": `Rows of ${title}` });
  const takes = (["csv", "xlsx", "copy"] as const).map((way) =>
    button({ csv: "CSV", xlsx: "spreadsheet", copy: "copy" }[way], () => takeBy(way)(app, name, rows), {
      class: "plain",
    }),
  );
  dialog.append(
    element(
      "header",
      {},
      element("h2", {}, title),
      element("span", {}, count),
      ...takes,
      button("close", () => dialog.close()),
    ),
    element("div", { class: "rows", tabindex: "0", role: "region", "aria-label": `Rows of ${title}` }, table),
  );
  dialog.addEventListener("close", () => dialog.remove());
  // Escape closes it, and is not for the last selection as well.
  dialog.addEventListener("keydown", (event) => event.stopPropagation());
  document.body.append(dialog);
  dialog.showModal();
}
