import { Kit } from "../../core/finding/kit";
import { plainValue } from "../../core/query/categories";
import { withUnit, writeAt } from "../../core/query/write";
import type { App } from "../app";
import { download } from "../dom";
import type { ShownRows } from "./columns";
import { csvText, guarded } from "./csv";

/** What takes rows away into a file or elsewhere, by the word of the sheet. */
export type Take = (app: App, name: string, rows: ShownRows) => void;

/** Ways of taking rows that come as parts of their own. */
export const TAKES = new Kit<Take>("way of taking rows");

/** The words on what takes rows away. */
export const TAKE_WORDS = { csv: "CSV", xlsx: "spreadsheet", copy: "copy", print: "print" } as const;
export type TakeName = keyof typeof TAKE_WORDS;

/** The head of a column as readers know it. */
export const headOf = ({ label, unit }: { label: string; unit?: string }): string => withUnit(label, unit);

const takeCsv: Take = (_, name, { columns, ids }) => {
  const text = csvText(
    columns.map(({ key }) => key),
    (function* rows() {
      for (const id of ids) yield columns.map(({ column }) => plainValue(column, id));
    })(),
  );
  download(`${name}.csv`, text, "text/csv;charset=utf-8");
};

const escaped = (text: string) =>
  text.replace(/[&<>]/g, (sign) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;" })[sign] as string);

/** Tab-separated text and a table, so that it pastes into a spreadsheet and into a letter. */
const takeCopy: Take = (app, _, { columns, ids }) => {
  const heads = columns.map(({ channel }) => headOf(channel));
  const rows = Array.from(ids, (id) => columns.map(({ channel, column }) => writeAt(channel, column, id)));
  const flat = (text: string) => guarded(text.replace(/[\t\r\n]+/g, " "));
  const text = [heads, ...rows].map((row) => row.map(flat).join("\t")).join("\n");
  const line = (cells: readonly string[], tag: string) =>
    `<tr>${cells.map((cell) => `<${tag}>${escaped(guarded(cell))}</${tag}>`).join("")}</tr>`;
  const html = `<table>${line(heads, "th")}${rows.map((row) => line(row, "td")).join("")}</table>`;
  const blob = (content: string, type: string) => new Blob([content], { type });
  const item = new ClipboardItem({ "text/plain": blob(text, "text/plain"), "text/html": blob(html, "text/html") });
  navigator.clipboard.write([item]).then(
    () => app.say(`${ids.length} rows copied`),
    () => app.say("this browser does not let the page copy; take the rows as CSV"),
  );
};

const OWN: Readonly<Partial<Record<TakeName, Take>>> = {
  csv: takeCsv,
  copy: takeCopy,
  print: () => window.print(),
};

export const takeBy = (name: TakeName): Take => OWN[name] ?? TAKES.get(name);
