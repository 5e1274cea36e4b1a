import { formatSpecifier } from "d3-format";
import { isFormat } from "../../core/formula/format";
import type { ShownColumn } from "./columns";

/** How spreadsheets write dates, moments and lengths of time of which nothing is said. */
const USUAL: Partial<Record<string, string>> = {
  date: "yyyy-mm-dd",
  datetime: "yyyy-mm-dd hh:mm:ss",
  duration: "[h]:mm:ss",
};

/** Letters of dates as spreadsheets know them; what is not among them leaves a date as it usually is. */
const LETTERS: Readonly<Record<string, string>> = {
  "%Y": "yyyy",
  "%y": "yy",
  "%B": "mmmm",
  "%b": "mmm",
  "%m": "mm",
  "%-m": "m",
  "%d": "dd",
  "%-d": "d",
  "%A": "dddd",
  "%a": "ddd",
  "%H": "hh",
  "%-H": "h",
  "%M": "mm",
  "%S": "ss",
};

/** The code of a format of dates; nothing where spreadsheets have no such letter. */
function codeOfDate(format: string): string | undefined {
  const parts = format.match(/%-?[A-Za-z%]|[^%]/g) ?? [];
  const codes = parts.map((part) => (/^[ ./:,-]$/.test(part) ? part : LETTERS[part]));
  return codes.includes(undefined) ? undefined : codes.join("");
}

/** The code of a format of numbers; nothing where spreadsheets write them best as they do. */
function codeOfNumber(format: string): string | undefined {
  const { type, comma, precision = 6, trim, sign } = formatSpecifier(format);
  const whole = comma ? "#,##0" : "0";
  const part = precision > 0 ? `.${(trim ? "#" : "0").repeat(precision)}` : "";
  const codes: Partial<Record<string, string>> = {
    d: whole,
    f: `${whole}${part}`,
    "%": `${whole}${part}%`,
    e: `0${part}E+00`,
  };
  const code = codes[type];
  return code && sign === "+" ? `+${code};-${code};${code}` : code;
}

/** The code by which a spreadsheet writes a column as the dashboard does; nothing where it writes it by itself. */
export function cellFormat({ channel: { format }, column: { kind } }: ShownColumn): string | undefined {
  if (kind === "text" || kind === "boolean") return undefined;
  const said = format !== undefined && isFormat(kind, format) ? format : undefined;
  if (kind === "number") return said && codeOfNumber(said);
  if (kind === "duration") return said?.includes("m") ? said.replace(/^./, "[$&]") : USUAL[kind];
  return (said && codeOfDate(said)) || USUAL[kind];
}
