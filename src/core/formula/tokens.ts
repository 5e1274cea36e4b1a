import { RESERVED } from "./words";

export type TokenType = "number" | "text" | "name" | "quoted name" | "setting" | "word" | "sign" | "end";

export interface Token {
  type: TokenType;
  /** The value: a name without its marks, a text without its quotes. */
  value: string;
  start: number;
  end: number;
}

/** A formula that cannot be read: where and why, in plain words, with a mended text if there is one. */
export class FormulaProblem extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly start: number,
    readonly end: number,
    readonly fix?: { title: string; text: string; start: number; end: number },
  ) {
    super(message);
  }
}

const SPACE = /\s+/y;
const NUMBER = /(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?/y;
const NAME = /[\p{L}_][\p{L}\p{N}_]*/uy;
const SIGN = /<=|>=|!=|<>|==|[-+*/^=<>(),[\].]/y;

function matchAt(pattern: RegExp, text: string, at: number): string | undefined {
  pattern.lastIndex = at;
  return pattern.exec(text)?.[0];
}

/** A stretch between marks, in which a doubled mark stands for one; backslash escapes in texts. */
function quoted(text: string, start: number, what: string): { value: string; end: number } {
  const mark = text[start] as string;
  let value = "";
  for (let at = start + 1; at < text.length; at++) {
    const character = text[at] as string;
    if (character === "\\" && mark === '"' && at + 1 < text.length) {
      const next = text[at + 1] as string;
      value += next === "n" ? "\n" : next === "t" ? "\t" : next;
      at += 1;
    } else if (character === mark) {
      if (text[at + 1] !== mark) return { value, end: at + 1 };
      value += mark;
      at += 1;
    } else value += character;
  }
  throw new FormulaProblem("unclosed-quote", `this ${what} is never closed with ${mark}`, start, text.length);
}

/** Cuts a formula into tokens. Throws {@link FormulaProblem}. */
export function tokenize(text: string): Token[] {
  const tokens: Token[] = [];
  let at = 0;
  while (at < text.length) {
    const space = matchAt(SPACE, text, at);
    if (space) {
      at += space.length;
      continue;
    }
    const start = at;
    const character = text[at] as string;
    const add = (type: TokenType, value: string, end: number) => {
      tokens.push({ type, value, start, end });
      at = end;
    };
    if (character === '"') {
      const { value, end } = quoted(text, at, "text");
      add("text", value, end);
      continue;
    }
    if (character === "`") {
      const { value, end } = quoted(text, at, "column name");
      add("quoted name", value, end);
      continue;
    }
    if (character === "'") {
      const close = text.indexOf("'", at + 1);
      const end = close < 0 ? text.length : close + 1;
      const inner = text.slice(at + 1, close < 0 ? text.length : close);
      throw new FormulaProblem("single-quotes", "a text stands in double quotes", start, end, {
        title: "use double quotes",
        text: JSON.stringify(inner),
        start,
        end,
      });
    }
    const number = matchAt(NUMBER, text, at);
    if (number) {
      add("number", number, at + number.length);
      continue;
    }
    if (character === "$") {
      const name = matchAt(NAME, text, at + 1);
      if (!name)
        throw new FormulaProblem("bad-sign", "after $ comes the name of a setting, such as $bins", start, start + 1);
      add("setting", name, at + 1 + name.length);
      continue;
    }
    const name = matchAt(NAME, text, at);
    if (name) {
      add(RESERVED.has(name) ? "word" : "name", name, at + name.length);
      continue;
    }
    const sign = matchAt(SIGN, text, at);
    if (!sign) throw new FormulaProblem("bad-sign", `"${character}" has no meaning in a formula`, start, start + 1);
    if (sign === "==" || sign === "<>") {
      const meant = sign === "==" ? "=" : "!=";
      throw new FormulaProblem("bad-sign", `write ${meant} in place of ${sign}`, start, start + 2, {
        title: `write ${meant}`,
        text: meant,
        start,
        end: start + 2,
      });
    }
    add("sign", sign, at + sign.length);
  }
  tokens.push({ type: "end", value: "", start: text.length, end: text.length });
  return tokens;
}
