/** What may come next in a JSON text. */
type Wanted = "value" | "value or ]" | "key" | "key or }" | ":" | ", or ]" | ", or }" | "end";

const TOKEN =
  /[ \t\n\r]*(?:("(?:[^"\\\u0000-\u001f]|\\(?:["\\/bfnrt]|u[0-9a-fA-F]{4}))*")|(-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?|true|false|null)|([{}[\],:]))/y;

/** The first place at which a text stops being JSON, by the grammar of RFC 8259; engines word theirs differently. */
export function jsonProblemAt(text: string): number {
  const open: ("[" | "{")[] = [];
  let wanted: Wanted = "value";
  let at = 0;
  const afterValue = (): Wanted => (open.length === 0 ? "end" : open.at(-1) === "[" ? ", or ]" : ", or }");
  for (;;) {
    TOKEN.lastIndex = at;
    const found = TOKEN.exec(text);
    const start = found
      ? TOKEN.lastIndex - (found[1] ?? found[2] ?? found[3] ?? "").length
      : at + (/^[ \t\n\r]*/.exec(text.slice(at, at + 1000))?.[0].length ?? 0);
    if (!found) return Math.min(start, text.length);
    const [, quoted, plain, sign] = found;
    const isValue = wanted === "value" || wanted === "value or ]";
    if (isValue && (quoted !== undefined || plain !== undefined)) wanted = afterValue();
    else if (isValue && (sign === "[" || sign === "{")) {
      open.push(sign);
      wanted = sign === "[" ? "value or ]" : "key or }";
    } else if ((wanted === "key" || wanted === "key or }") && quoted !== undefined) wanted = ":";
    else if (wanted === ":" && sign === ":") wanted = "value";
    else if ((wanted === "value or ]" || wanted === ", or ]") && sign === "]") {
      open.pop();
      wanted = afterValue();
    } else if ((wanted === "key or }" || wanted === ", or }") && sign === "}") {
      open.pop();
      wanted = afterValue();
    } else if (wanted === ", or ]" && sign === ",") wanted = "value";
    else if (wanted === ", or }" && sign === ",") wanted = "key";
    else return start;
    at = TOKEN.lastIndex;
  }
}
