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

/** A token without the place at which it begins, which is known. */
type Cut = Omit<Token, "start">;

/** What stands in quotes of some kind at a place; single ones are a mistake. */
function cutQuoted(text: string, at: number): Cut | undefined {
  const character = text[at];
  if (character === '"') return { type: "text", ...quoted(text, at, "text") };
  if (character === "`") return { type: "quoted name", ...quoted(text, at, "column name") };
  if (character !== "'") return undefined;
  const close = text.indexOf("'", at + 1);
  const end = close < 0 ? text.length : close + 1;
  const inner = text.slice(at + 1, close < 0 ? text.length : close);
  throw new FormulaProblem("single-quotes", "a text stands in double quotes", at, end, {
    title: "use double quotes",
    text: JSON.stringify(inner),
    start: at,
    end,
  });
}

/** A number, a setting, a name or a word at a place. */
function cutWord(text: string, at: number): Cut | undefined {
  const number = matchAt(NUMBER, text, at);
  if (number) return { type: "number", value: number, end: at + number.length };
  if (text[at] === "$") {
    const name = matchAt(NAME, text, at + 1);
    if (!name) throw new FormulaProblem("bad-sign", "after $ comes the name of a setting, such as $bins", at, at + 1);
    return { type: "setting", value: name, end: at + 1 + name.length };
  }
  const name = matchAt(NAME, text, at);
  return name ? { type: RESERVED.has(name) ? "word" : "name", value: name, end: at + name.length } : undefined;
}

/** Signs of other languages, as they are written here. */
const FOREIGN = [
  ["&&", "and"],
  ["||", "or"],
  ["!", "not"],
] as const;

function cutSign(text: string, at: number): Cut {
  const word = FOREIGN.find(([sign]) => text.startsWith(sign, at));
  if (word && matchAt(SIGN, text, at) !== "!=") {
    const [sign, meant] = word;
    const end = at + sign.length;
    throw new FormulaProblem("bad-sign", `write ${meant} in place of ${sign}`, at, end, {
      title: `write ${meant}`,
      text: ` ${meant} `,
      start: at,
      end,
    });
  }
  const sign = matchAt(SIGN, text, at);
  if (!sign) {
    // Before a value it is meant as the rest of a division, elsewhere as a hundredth.
    const rest = /^%\s*[\w`$("]/.test(text.slice(at)) ? "; the rest of a division is mod(a, b)" : "; half of it is 0.5";
    const hint = text[at] === "%" ? rest : "";
    throw new FormulaProblem("bad-sign", `"${text[at]}" has no meaning in a formula${hint}`, at, at + 1);
  }
  if (sign !== "==" && sign !== "<>") return { type: "sign", value: sign, end: at + sign.length };
  const meant = sign === "==" ? "=" : "!=";
  throw new FormulaProblem("bad-sign", `write ${meant} in place of ${sign}`, at, at + 2, {
    title: `write ${meant}`,
    text: meant,
    start: at,
    end: at + 2,
  });
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
    const cut = cutQuoted(text, at) ?? cutWord(text, at) ?? cutSign(text, at);
    tokens.push({ ...cut, start: at });
    at = cut.end;
  }
  tokens.push({ type: "end", value: "", start: text.length, end: text.length });
  return tokens;
}
