/** What a cell's number stands for, by the format that it is shown in. */
export type NumberMeaning = "number" | "date" | "datetime" | "time";

/** Formats that have only a number in the file (ECMA-376, part 1, 18.8.30). */
function builtIn(id: number): NumberMeaning {
  if (id === 22) return "datetime";
  if ((id >= 14 && id <= 17) || (id >= 27 && id <= 31) || (id >= 34 && id <= 36) || (id >= 50 && id <= 58))
    return "date";
  return (id >= 18 && id <= 21) || id === 32 || id === 33 || (id >= 45 && id <= 47) ? "time" : "number";
}

/** Reads the first section of a format's code; words in quotes, colours and padding say nothing. */
export function meaningOf(id: number, code: string | undefined): NumberMeaning {
  if (code === undefined) return builtIn(id);
  const letters = code
    .replace(/"[^"]*"|\\.|_.|\*./g, "")
    .replace(/\[(h+|m+|s+)\]/gi, "$1h")
    .replace(/\[[^\]]*\]/g, "")
    .replace(/am\/pm|a\/p/gi, "h")
    .split(";")[0]
    ?.toLowerCase() as string;
  if (/general|[0#?]e[+-]/.test(letters)) return "number";
  const time = /[hs]/.test(letters);
  // The letter m stands for minutes beside hours or seconds, for months elsewhere.
  const date = /[yd]/.test(letters) || (/m/.test(letters) && !time);
  return date && time ? "datetime" : date ? "date" : time ? "time" : "number";
}
