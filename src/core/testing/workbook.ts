import { strToU8, zipSync } from "fflate";

/**
 * Writes small workbooks (ECMA-376), for tests and made-up data: cells as the format has them,
 * `@` standing for their reference. The zip has a fixed date, so that the bytes are always the same.
 */
export function workbook(sheets: Record<string, string[][]>): Uint8Array {
  const names = Object.keys(sheets);
  const head = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>';
  const main = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
  const relations = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
  const files: Record<string, Uint8Array> = {
    "[Content_Types].xml": strToU8(`${head}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="xml" ContentType="application/xml"/><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/></Types>`),
    "xl/workbook.xml": strToU8(`${head}<workbook xmlns="${main}" xmlns:r="${relations}"><sheets>${names.map((name, at) => `<sheet name="${name}" sheetId="${at + 1}" r:id="rId${at + 1}"/>`).join("")}</sheets></workbook>`),
    "xl/_rels/workbook.xml.rels": strToU8(`${head}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${names.map((_, at) => `<Relationship Id="rId${at + 1}" Type="${relations}/worksheet" Target="worksheets/sheet${at + 1}.xml"/>`).join("")}<Relationship Id="rId99" Type="${relations}/styles" Target="styles.xml"/></Relationships>`),
    "xl/styles.xml": strToU8(`${head}<styleSheet xmlns="${main}"><cellXfs count="3"><xf numFmtId="0"/><xf numFmtId="14"/><xf numFmtId="22"/></cellXfs></styleSheet>`),
  };
  names.forEach((name, at) => {
    const rows = (sheets[name] as string[][]).map((cells, row) => `<row r="${row + 1}">${cells.map((cell, column) => cell.replace("@", `r="${String.fromCharCode(65 + column)}${row + 1}"`)).join("")}</row>`);
    files[`xl/worksheets/sheet${at + 1}.xml`] = strToU8(`${head}<worksheet xmlns="${main}"><sheetData>${rows.join("")}</sheetData></worksheet>`);
  });
  return zipSync(files, { mtime: new Date("2025-01-01T12:00:00") });
}

export const textCell = (value: string) => `<c @ t="inlineStr"><is><t>${value}</t></is></c>`;

/** Style 0 is a plain number, 1 a date, 2 a date with a time; dates count days since the end of 1899. */
export const numberCell = (value: number, style: 0 | 1 | 2 = 0) => `<c @ s="${style}"><v>${value}</v></c>`;
