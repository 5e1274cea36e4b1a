import { nameAt } from "../../core/query/categories";
import { download } from "../dom";
import type { ShownColumn } from "./columns";
import { headOf, type Take } from "./take";
import { zipped } from "./zip";

/** Days from the beginning of spreadsheets' calendar to 1970. */
const EPOCH = 25569;
const DAY = 86400;

/** Places of styles in the workbook's list of them. */
const STYLES = { plain: 0, head: 1, date: 2, datetime: 3, duration: 4, number: 5 } as const;

const escaped = (text: string) =>
  text
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, "")
    .replace(/[&<>"]/g, (sign) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[sign] as string);

const textCell = (text: string, style: number) =>
  `<c t="inlineStr" s="${style}"><is><t xml:space="preserve">${escaped(text)}</t></is></c>`;

const numberCell = (value: number, style: number) => `<c s="${style}"><v>${value}</v></c>`;

/** A cell in the kind of its column; missing is an empty one. */
function cell({ column }: ShownColumn, id: number): string {
  if (column.kind === "text") {
    const text = nameAt(column, id);
    return text === null ? "<c/>" : textCell(text, STYLES.plain);
  }
  const value = column.values[id] as number;
  if (!Number.isFinite(value)) return "<c/>";
  if (column.kind === "boolean") return `<c t="b"><v>${value ? 1 : 0}</v></c>`;
  if (column.kind === "date") return numberCell(value / DAY + EPOCH, STYLES.date);
  if (column.kind === "datetime") return numberCell(value / DAY + EPOCH, STYLES.datetime);
  if (column.kind === "duration") return numberCell(value / DAY, STYLES.duration);
  return numberCell(value, STYLES.number);
}

const HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>';
const MAIN = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
const OFFICE = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
const PACKAGE = "http://schemas.openxmlformats.org/package/2006";
const KIND = "application/vnd.openxmlformats-officedocument.spreadsheetml";

const STYLE_SHEET = `${HEAD}<styleSheet xmlns="${MAIN}"><numFmts count="3"><numFmt numFmtId="170" formatCode="yyyy-mm-dd"/><numFmt numFmtId="171" formatCode="yyyy-mm-dd hh:mm:ss"/><numFmt numFmtId="172" formatCode="[h]:mm:ss"/></numFmts><fonts count="2"><font/><font><b/></font></fonts><fills count="1"><fill/></fills><borders count="1"><border/></borders><cellStyleXfs count="1"><xf/></cellStyleXfs><cellXfs count="6"><xf/><xf fontId="1" applyFont="1"/><xf numFmtId="170" applyNumberFormat="1"/><xf numFmtId="171" applyNumberFormat="1"/><xf numFmtId="172" applyNumberFormat="1"/><xf/></cellXfs></styleSheet>`;

/** Most rows that a spreadsheet holds, heads among them. */
const MOST = 1_048_576;

/** A workbook of one sheet: labels and units as heads, cells in their kinds. */
export function workbook(name: string, columns: readonly ShownColumn[], ids: Int32Array): Promise<Blob> {
  const parts = [`<row>${columns.map(({ channel }) => textCell(headOf(channel), STYLES.head)).join("")}</row>`];
  for (const id of ids.subarray(0, MOST - 1))
    parts.push(`<row>${columns.map((column) => cell(column, id)).join("")}</row>`);
  const files: Record<string, string> = {
    "[Content_Types].xml": `${HEAD}<Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="${KIND}.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="${KIND}.worksheet+xml"/><Override PartName="/xl/styles.xml" ContentType="${KIND}.styles+xml"/></Types>`,
    "_rels/.rels": `${HEAD}<Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="r1" Type="${OFFICE}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    "xl/workbook.xml": `${HEAD}<workbook xmlns="${MAIN}" xmlns:r="${OFFICE}"><sheets><sheet name="${escaped(name.slice(0, 31))}" sheetId="1" r:id="r1"/></sheets></workbook>`,
    "xl/_rels/workbook.xml.rels": `${HEAD}<Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="r1" Type="${OFFICE}/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="r2" Type="${OFFICE}/styles" Target="styles.xml"/></Relationships>`,
    "xl/styles.xml": STYLE_SHEET,
    "xl/worksheets/sheet1.xml": `${HEAD}<worksheet xmlns="${MAIN}"><sheetViews><sheetView workbookViewId="0"><pane ySplit="1" topLeftCell="A2" state="frozen"/></sheetView></sheetViews><sheetData>${parts.join("")}</sheetData></worksheet>`,
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
