import { strToU8, zipSync } from "fflate";

/** What else a workbook may say. */
interface Extras {
  /** Names of sheets that are hidden. */
  hidden?: readonly string[];
  from1904?: boolean;
  /** Codes of formats of the styles from 3 on. */
  formats?: readonly string[];
  strings?: readonly string[];
}

/**
 * Writes small workbooks (ECMA-376), for tests and made-up data: cells as the format has them,
 * `@` standing for their reference. The zip has a fixed date, so that the bytes are always the same.
 */
export function workbook(
  sheets: Record<string, string[][]>,
  { hidden = [], from1904 = false, formats = [], strings = [] }: Extras = {},
): Uint8Array {
  const names = Object.keys(sheets);
  const head = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>';
  const main = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
  const relations = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
  const files: Record<string, Uint8Array> = {
    "[Content_Types].xml": strToU8(
      `${head}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="xml" ContentType="application/xml"/><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/></Types>`,
    ),
    "xl/workbook.xml": strToU8(
      `${head}<workbook xmlns="${main}" xmlns:r="${relations}">${from1904 ? '<workbookPr date1904="1"/>' : ""}<sheets>${names.map((name, at) => `<sheet name="${name}" sheetId="${at + 1}" ${hidden.includes(name) ? 'state="hidden" ' : ""}r:id="rId${at + 1}"/>`).join("")}</sheets></workbook>`,
    ),
    "xl/_rels/workbook.xml.rels": strToU8(
      `${head}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${names.map((_, at) => `<Relationship Id="rId${at + 1}" Type="${relations}/worksheet" Target="worksheets/sheet${at + 1}.xml"/>`).join("")}<Relationship Id="rId99" Type="${relations}/styles" Target="styles.xml"/>${strings.length ? `<Relationship Id="rId98" Type="${relations}/sharedStrings" Target="sharedStrings.xml"/>` : ""}</Relationships>`,
    ),
    ...(strings.length
      ? {
          "xl/sharedStrings.xml": strToU8(
            `${head}<sst xmlns="${main}">${strings.map((text) => `<si>${text}</si>`).join("")}</sst>`,
          ),
        }
      : {}),
    "xl/styles.xml": strToU8(
      `${head}<styleSheet xmlns="${main}">${formats.length ? `<numFmts>${formats.map((code, at) => `<numFmt numFmtId="${164 + at}" formatCode="${code.replaceAll('"', "&quot;")}"/>`).join("")}</numFmts>` : ""}<cellXfs count="${3 + formats.length}"><xf numFmtId="0"/><xf numFmtId="14"/><xf numFmtId="22"/>${formats.map((_, at) => `<xf numFmtId="${164 + at}"/>`).join("")}</cellXfs></styleSheet>`,
    ),
  };
  names.forEach((name, at) => {
    const rows = (sheets[name] as string[][]).map(
      (cells, row) =>
        `<row r="${row + 1}">${cells.map((cell, column) => cell.replace("@", `r="${String.fromCharCode(65 + column)}${row + 1}"`)).join("")}</row>`,
    );
    files[`xl/worksheets/sheet${at + 1}.xml`] = strToU8(
      `${head}<worksheet xmlns="${main}"><sheetData>${rows.join("")}</sheetData></worksheet>`,
    );
  });
  return zipSync(files, { mtime: new Date("2025-01-01T12:00:00") });
}

export const textCell = (value: string) => `<c @ t="inlineStr"><is><t>${value}</t></is></c>`;

/**
 * Style 0 is a plain number, 1 a date, 2 a date with a time; from 3 on formats of its own; dates count days
 * since the end of 1899.
 */
export const numberCell = (value: number, style = 0) => `<c @ s="${style}"><v>${value}</v></c>`;
