import { writeCount } from "../../core/formula/format";
import type { App } from "../app";
import { openDialog } from "../dialog";
import { button, element } from "../dom";
import { cellOf } from "../table/cells";
import type { ShownRows } from "../table/columns";
import { headOf, TAKE_WORDS, takeBy } from "../table/take";

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
  const takes = (["csv", "xlsx", "copy"] as const).map((way) =>
    button(TAKE_WORDS[way], () => takeBy(way)(app, name, rows), { class: "plain" }),
  );
  const close = button("close", () => dialog.close());
  const label = `Rows of ${title}`;
  const dialog = openDialog(
    label,
    "look-in",
    element("header", {}, element("h2", {}, title), element("span", {}, count), ...takes, close),
    element("div", { class: "rows", tabindex: "0", role: "region", "aria-label": label }, table),
  );
}
