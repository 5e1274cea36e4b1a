import { nameAt } from "../../core/query/categories";
import { download } from "../dom";
import { cellFormat } from "./cell-formats";
import type { ShownColumn } from "./columns";
import { headOf, type Take } from "./take";
import { zipped } from "./zip";

/** Days from the beginning of spreadsheets' calendar to 1970. */
const EPOCH = 25569;
const DAY = 86400;

/** Places of styles in the workbook's list of them; those of formats follow. */
const STYLES = { plain: 0, head: 1, formats: 2 } as const;

const escaped = (text: string) =>
  text
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, "")
    .replace(/[&<>"]/g, (sign) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[sign] as string);

const textCell = (text: string, style: number) =>
  `<c t="inlineStr" s="${style}"><is><t xml:space="preserve">${escaped(text)}</t></is></c>`;

const numberCell = (value: number, style: number) => `<c s="${style}"><v>${value}</v></c>`;

/** A cell in the kind of its column; missing is an empty one. */
function cell({ column }: ShownColumn, id: number, style: number): string {
  if (column.kind === "text") {
    const text = nameAt(column, id);
    return text === null ? "<c/>" : textCell(text, STYLES.plain);
  }
  const value = column.values[id] as number;
  if (!Number.isFinite(value)) return "<c/>";
  if (column.kind === "boolean") return `<c t="b"><v>${value ? 1 : 0}</v></c>`;
  if (column.kind === "date" || column.kind === "datetime") return numberCell(value / DAY + EPOCH, style);
  return numberCell(column.kind === "duration" ? value / DAY : value, style);
}

/** About how many signs wide a column is: its head, and a date or the texts of its first rows. */
function widthOf({ channel, column }: ShownColumn, ids: Int32Array): number {
  const head = headOf(channel).length + 2;
  if (column.kind !== "text") return Math.max(head, column.kind === "datetime" ? 20 : 12);
  const lengths = Array.from(ids.subarray(0, SEEN_ROWS), (id) => nameAt(column, id)?.length ?? 0);
  return Math.min(WIDEST, Math.max(head, ...lengths.map((length) => length + 1)));
}

/** Texts of so many rows tell how wide a column is, which is no wider than this. */
const SEEN_ROWS = 200;
const WIDEST = 60;

const HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>';
const MAIN = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
const OFFICE = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
const PACKAGE = "http://schemas.openxmlformats.org/package/2006";
const KIND = "application/vnd.openxmlformats-officedocument.spreadsheetml";

/** The first number that a workbook gives to formats of its own. */
const FIRST_FORMAT = 170;

function styleSheet(formats: readonly string[]): string {
  const codes = formats.map((code, at) => `<numFmt numFmtId="${FIRST_FORMAT + at}" formatCode="${escaped(code)}"/>`);
  const styles = formats.map((_, at) => `<xf numFmtId="${FIRST_FORMAT + at}" applyNumberFormat="1"/>`);
  const own = codes.length ? `<numFmts count="${codes.length}">${codes.join("")}</numFmts>` : "";
  return `${HEAD}<styleSheet xmlns="${MAIN}">${own}<fonts count="2"><font/><font><b/></font></fonts><fills count="1"><fill/></fills><borders count="1"><border/></borders><cellStyleXfs count="1"><xf/></cellStyleXfs><cellXfs count="${STYLES.formats + styles.length}"><xf/><xf fontId="1" applyFont="1"/>${styles.join("")}</cellXfs></styleSheet>`;
}

/** Most rows that a spreadsheet holds, heads among them. */
const MOST = 1_048_576;

/** A workbook of one sheet: labels and units as heads, cells in their kinds and formats. */
export function workbook(name: string, columns: readonly ShownColumn[], ids: Int32Array): Promise<Blob> {
  const codes = columns.map(cellFormat);
  const formats = [...new Set(codes)].filter((code) => code !== undefined);
  const styles = codes.map((code) => (code === undefined ? STYLES.plain : STYLES.formats + formats.indexOf(code)));
  const widths = columns.map((column, at) => {
    return `<col min="${at + 1}" max="${at + 1}" width="${widthOf(column, ids)}" customWidth="1"/>`;
  });
  const parts = [`<row>${columns.map(({ channel }) => textCell(headOf(channel), STYLES.head)).join("")}</row>`];
  for (const id of ids.subarray(0, MOST - 1))
    parts.push(`<row>${columns.map((column, at) => cell(column, id, styles[at] as number)).join("")}</row>`);
  const files: Record<string, string> = {
    "[Content_Types].xml": `${HEAD}<Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="${KIND}.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="${KIND}.worksheet+xml"/><Override PartName="/xl/styles.xml" ContentType="${KIND}.styles+xml"/></Types>`,
    "_rels/.rels": `${HEAD}<Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="r1" Type="${OFFICE}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    "xl/workbook.xml": `${HEAD}<workbook xmlns="${MAIN}" xmlns:r="${OFFICE}"><sheets><sheet name="${escaped(name.slice(0, 31))}" sheetId="1" r:id="r1"/></sheets></workbook>`,
    "xl/_rels/workbook.xml.rels": `${HEAD}<Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="r1" Type="${OFFICE}/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="r2" Type="${OFFICE}/styles" Target="styles.xml"/></Relationships>`,
    "xl/styles.xml": styleSheet(formats),
    "xl/worksheets/sheet1.xml": `${HEAD}<worksheet xmlns="${MAIN}"><sheetViews><sheetView workbookViewId="0"><pane ySplit="1" topLeftCell="A2" state="frozen"/></sheetView></sheetViews>${widths.length ? `<cols>${widths.join("")}</cols>` : ""}<sheetData>${parts.join("")}</sheetData></worksheet>`,
  };
  return zipped(files);
}

const KIND_OF_FILE = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";

export const takeXlsx: Take = (app, name, { columns, ids }) => {
  workbook(name, columns, ids).then(
    (file) => download(`${name}.xlsx`, file, KIND_OF_FILE),
    () => app.say("this browser cannot write the spreadsheet; take the rows as CSV"),
  );
};
