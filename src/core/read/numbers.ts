/** Which mark stands before the decimals; thousands may be parted by the other one, by spaces or by an apostrophe. */
export type DecimalMark = "." | ",";

const PLAIN = /^[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?$/;
const GROUPS: Record<DecimalMark, RegExp> = {
  ".": /^\d{1,3}(?:([, '’])\d{3})(?:\1\d{3})*(?:\.\d+)?$/,
  ",": /^\d{1,3}(?:([. '’])\d{3})(?:\1\d{3})*(?:,\d+)?$/,
};
const COMMA = /^\d*,\d+$/;
const SPACES = /[\u00a0\u2007\u2009\u202f]/g;
const MONEY = /^(?:([€$£¥]|[A-Z]{3}) ?)?(.*?)(?: ?([€$£¥]|[A-Z]{3}))?$/;

const CODES = new Set(["EUR", "USD", "GBP", "CHF", "SEK", "NOK", "DKK", "JPY", "CAD", "AUD", "€", "$", "£", "¥"]);

/** What stood around a number: a sign of currency, a percent sign. */
export interface Dress {
  currency?: string;
  percent?: boolean;
}

/** Takes signs off a cell; nothing where what is left cannot be a number. */
export function undress(text: string): { bare: string; negative: boolean; dress: Dress } | undefined {
  let bare = text.replace(SPACES, " ").trim();
  const quoted = /^(["'])(.*)\1$/.exec(bare);
  if (quoted) bare = (quoted[2] as string).trim();
  const dress: Dress = {};
  let negative = false;
  const bookkept = /^\((.*)\)$/.exec(bare);
  if (bookkept) {
    negative = true;
    bare = (bookkept[1] as string).trim();
  }
  const sign = () => {
    const found = /^[+\-\u2212] ?/.exec(bare);
    if (!found) return;
    if (found[0][0] !== "+") negative = !negative;
    bare = bare.slice(found[0].length);
  };
  sign();
  if (bare.endsWith("%")) {
    dress.percent = true;
    bare = bare.slice(0, -1).trimEnd();
  }
  const money = MONEY.exec(bare);
  const currency = money?.[1] ?? money?.[3];
  if (money && currency !== undefined && CODES.has(currency)) {
    dress.currency = currency;
    bare = (money[2] as string).trim();
    sign();
  }
  return /^[\d.,]/.test(bare) ? { bare, negative, dress } : undefined;
}

/** A number as people write it, with this decimal mark; `NaN` for anything else. A percent sign makes hundredths. */
export function numberReader(decimal: DecimalMark): (text: string) => number {
  return (text) => {
    // Most cells are plain, and for them nothing is taken apart.
    if (PLAIN.test(text) && (decimal === "." || !text.includes("."))) {
      const value = Number(text);
      return Number.isFinite(value) ? value : Number.NaN;
    }
    const found = undress(text);
    if (!found) return Number.NaN;
    let { bare } = found;
    if (GROUPS[decimal].test(bare)) bare = bare.replace(decimal === "." ? /[, '’]/g : /[. '’]/g, "");
    else if (decimal === "," && bare.includes(".")) return Number.NaN;
    if (decimal === "," && COMMA.test(bare)) bare = bare.replace(",", ".");
    if (!PLAIN.test(bare)) return Number.NaN;
    // Moved by the exponent and not divided: 12.3 % is 0.123, and nothing beside it.
    const value = Number(found.dress.percent ? `${bare}e-2` : bare);
    return Number.isFinite(value) ? (found.negative ? -value : value) : Number.NaN;
  };
}

/** The decimal mark of an example such as `1.234,5`; nothing where the example shows none. */
export function decimalOf(example: string): DecimalMark | undefined {
  const digits = example.replace(/[^\d.,]/g, "");
  const last = Math.max(digits.lastIndexOf("."), digits.lastIndexOf(","));
  if (last < 0) return undefined;
  const mark = digits[last] as DecimalMark;
  const other = mark === "." ? "," : ".";
  // A lone mark before three digits, or one that comes twice, parts thousands.
  const groups = digits.indexOf(mark) !== last || (!digits.includes(other) && digits.length - last - 1 === 3);
  return groups ? other : mark;
}

/** True if a cell is a number for either mark and not the same one: `1,234`. */
export function isAmbiguous(text: string): boolean {
  const bare = undress(text)?.bare ?? "";
  return /^\d{1,3}[.,]\d{3}$/.test(bare);
}

/** Digits that name something and count nothing: with leading zeros, or more than a number holds exactly. */
export function isCode(text: string): boolean {
  const first = text.charCodeAt(0);
  if (text.length > 15 && /^[+-]?\d{16,}$/.test(text.trim())) return true;
  return (first === 48 || first === 43 || first === 45) && /^[+-]?0\d+$/.test(text.trim());
}
