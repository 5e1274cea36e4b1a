import { BOUNDS, boundMessage, LIMITS } from "../finding/limits";
import { AGGREGATES } from "./aggregate-names";
import { FormulaProblem, type Token, tokenize } from "./tokens";
import { type At, type BinaryOperator, type Formula, mapFormula, partsOf } from "./tree";

export interface NamedFormula {
  formula: Formula;
  /** The name given with `as`, if any. */
  name?: string;
}

export type Parsed = { ok: true; value: NamedFormula } | { ok: false; problem: FormulaProblem };

const COMPARISONS = new Set(["=", "!=", "<", "<=", ">", ">="]);

/** One pass of recursive descent; lowest precedence first: or, and, not, comparisons, sums, products, minus, power. */
class Reader {
  private at = 0;
  private depth = 0;

  constructor(
    private readonly tokens: Token[],
    private readonly text: string,
  ) {}

  whole(allowName: boolean): NamedFormula {
    if (this.text.trim() === "") throw new FormulaProblem("empty-formula", "a formula is expected here", 0, 0);
    const formula = this.or();
    let name: string | undefined;
    if (allowName && this.takeWord("as")) {
      const token = this.take();
      if (token.type !== "name" && token.type !== "quoted name") throw this.expected("a name after as", token);
      name = token.value;
      if (this.next.type === "name" || this.next.type === "word") throw this.parted(token);
    }
    if (this.next.type !== "end") throw this.unexpected();
    return name === undefined ? { formula } : { formula, name };
  }

  /** A name of several words, which can be one with `_` between them. */
  private parted(first: Token): FormulaProblem {
    const { end } = this.tokens[this.tokens.length - 2] as Token;
    const words = this.text.slice(first.start, end);
    const name = words.replace(/\s+/g, "_");
    const fix = /^\w+$/.test(name) ? { title: `write ${name}`, text: name, start: first.start, end } : undefined;
    return new FormulaProblem("bad-formula", "a name after as is one word", first.start, end, fix);
  }

  private get next(): Token {
    return this.tokens[this.at] as Token;
  }

  private take(): Token {
    const token = this.next;
    if (token.type !== "end") this.at += 1;
    return token;
  }

  private takeSign(sign: string): boolean {
    if (this.next.type !== "sign" || this.next.value !== sign) return false;
    this.at += 1;
    return true;
  }

  private takeWord(word: string): boolean {
    if (this.next.type !== "word" || this.next.value !== word) return false;
    this.at += 1;
    return true;
  }

  private expected(what: string, token: Token): FormulaProblem {
    const distinct = /count\s*\(\s*distinct\s+(\w+|`[^`]+`)\s*\)/i.exec(this.text);
    if (distinct) {
      const [all, column] = distinct;
      const fix = { title: `write distinct(${column})`, text: `distinct(${column})` };
      const [start, end] = [distinct.index, distinct.index + all.length];
      return new FormulaProblem("bad-formula", `different values are counted by distinct(${column})`, start, end, {
        ...fix,
        start,
        end,
      });
    }
    const found = token.type === "end" ? "the formula ends" : `"${this.textOf(token)}" stands`;
    return this.problemAt(token, `${what} is expected where ${found}`);
  }

  private unexpected(): FormulaProblem {
    const token = this.next;
    if (token.value === ")" || token.value === "]")
      return new FormulaProblem("unbalanced", `this ${token.value} closes nothing`, token.start, token.end);
    if (COMPARISONS.has(token.value))
      return new FormulaProblem(
        "chained-comparison",
        "comparisons do not chain; join two with and",
        token.start,
        token.end,
      );
    return (
      this.saidOtherwise(token) ??
      this.withoutBrackets(token) ??
      this.problemAt(token, `an operator is missing before "${this.textOf(token)}"`)
    );
  }

  private textOf(token: Token): string {
    return this.text.slice(token.start, token.end);
  }

  private problemAt({ start, end }: Token, message: string): FormulaProblem {
    return new FormulaProblem("bad-formula", message, start, Math.max(end, start));
  }

  /** What is said otherwise elsewhere: `cargo is not null`, `tonnes desc`. */
  private saidOtherwise(token: Token): FormulaProblem | undefined {
    const found =
      /(\w+|`[^`]+`)\s+is\s+(not\s+)?(?:null|missing|empty|blank)\b/i.exec(this.text) ??
      /^\s*(\w+|`[^`]+`)\s+desc(?:ending)?\s*$/i.exec(this.text);
    if (!found || token.start < found.index || token.start > found.index + found[0].length) return undefined;
    const [all, column, negated] = found;
    const isOrder = /desc/i.test(all.slice((column as string).length));
    const text = isOrder ? `-${column}` : `${negated ? "known" : "missing"}(${column})`;
    const [start, end] = [found.index, found.index + all.length];
    const fix = { title: `write ${text}`, text, start, end };
    return new FormulaProblem("bad-formula", `here that is said ${text}`, start, end, fix);
  }

  /** `sum tonnes`: what a function is of stands in brackets. */
  private withoutBrackets(token: Token): FormulaProblem | undefined {
    const before = this.tokens[this.at - 1];
    if (before?.type !== "name" || token.type !== "name" || !AGGREGATES.has(before.value)) return undefined;
    const text = `${before.value}(${token.value})`;
    const fix = { title: `write ${text}`, text, start: before.start, end: token.end };
    return new FormulaProblem("bad-formula", `brackets are missing: ${text}`, before.start, token.end, fix);
  }

  private span(start: number): At {
    return { start, end: (this.tokens[Math.max(0, this.at - 1)] as Token).end };
  }

  private or(): Formula {
    this.depth += 1;
    // Each bracket takes ten calls of this reader: what is open when the bound is met is all that is known.
    if (this.depth > LIMITS.formulaBrackets)
      throw new FormulaProblem(
        "too-deep",
        `more than ${LIMITS.formulaBrackets} brackets are open here; ${BOUNDS.formulaBrackets.told}`,
        this.next.start,
        this.next.end,
      );
    const start = this.next.start;
    let left = this.and();
    while (this.takeWord("or"))
      left = { type: "binary", operator: "or", left, right: this.and(), at: this.span(start) };
    this.depth -= 1;
    return left;
  }

  private and(): Formula {
    const start = this.next.start;
    let left = this.not();
    while (this.takeWord("and"))
      left = { type: "binary", operator: "and", left, right: this.not(), at: this.span(start) };
    return left;
  }

  private not(): Formula {
    const start = this.next.start;
    let count = 0;
    while (this.takeWord("not")) count += 1;
    let formula = this.comparison();
    for (; count > 0; count--) formula = { type: "not", operand: formula, at: this.span(start) };
    return formula;
  }

  private comparison(): Formula {
    const start = this.next.start;
    const left = this.sum();
    if (this.next.type === "sign" && COMPARISONS.has(this.next.value)) {
      const operator = this.take().value as BinaryOperator;
      return { type: "binary", operator, left, right: this.sum(), at: this.span(start) };
    }
    if (this.takeWord("between")) {
      const low = this.sum();
      if (!this.takeWord("and")) throw this.expected("and between the two ends", this.next);
      return { type: "between", value: left, low, high: this.sum(), at: this.span(start) };
    }
    const save = this.at;
    const negated = this.takeWord("not");
    if (this.takeWord("in")) {
      this.refuseBrackets();
      const inside: Formula = { type: "in", value: left, list: this.sum(), at: this.span(start) };
      return negated ? { type: "not", operand: inside, at: this.span(start) } : inside;
    }
    this.at = save;
    return left;
  }

  /** `cargo in ("grain", "fuel")`: a list stands in square brackets. */
  private refuseBrackets() {
    const { start } = this.next;
    const list = /^\(([^()]*,[^()]*)\)/.exec(this.text.slice(start));
    if (!list) return;
    const [all, inside] = list;
    const text = `[${inside}]`;
    const fix = { title: `write ${text}`, text, start, end: start + all.length };
    throw new FormulaProblem("bad-formula", "a list stands in square brackets", start, start + all.length, fix);
  }

  private sum(): Formula {
    const start = this.next.start;
    let left = this.product();
    for (;;) {
      const operator = this.takeSign("+") ? "+" : this.takeSign("-") ? "-" : undefined;
      if (!operator) return left;
      left = { type: "binary", operator, left, right: this.product(), at: this.span(start) };
    }
  }

  private product(): Formula {
    const start = this.next.start;
    let left = this.minus();
    for (;;) {
      const operator = this.takeSign("*") ? "*" : this.takeSign("/") ? "/" : undefined;
      if (!operator) return left;
      left = { type: "binary", operator, left, right: this.minus(), at: this.span(start) };
    }
  }

  private minus(): Formula {
    const start = this.next.start;
    let count = 0;
    while (this.takeSign("-")) count += 1;
    let formula = this.power();
    for (; count > 0; count--) formula = { type: "minus", operand: formula, at: this.span(start) };
    return formula;
  }

  /** Binds tighter than a minus before it, and to the right: `-2^2` is -4, `2^3^2` is 512. */
  private power(): Formula {
    const bases: { formula: Formula; start: number; signs: number; signStart: number }[] = [];
    let [signs, signStart] = [0, this.next.start];
    for (;;) {
      const { start } = this.next;
      bases.push({ formula: this.of(), start, signs, signStart });
      if (!this.takeSign("^")) break;
      signStart = this.next.start;
      for (signs = 0; this.takeSign("-"); ) signs += 1;
    }
    let right: Formula | undefined;
    for (const { formula, start, signs: minus, signStart: from } of bases.reverse()) {
      right = right ? { type: "binary", operator: "^", left: formula, right, at: this.span(start) } : formula;
      for (let sign = 0; sign < minus; sign++) right = { type: "minus", operand: right, at: this.span(from) };
    }
    return right as Formula;
  }

  private of(): Formula {
    const start = this.next.start;
    const formula = this.single();
    if (!this.takeWord("of")) return formula;
    const token = this.take();
    if (token.type !== "name") throw this.expected("all or the name of a selection after of", token);
    return { type: "of", aggregate: formula, selection: this.dotted(token.value), at: this.span(start) };
  }

  /** Selections are named `piece` or `piece.hover`, `piece.legend`. */
  private dotted(name: string): string {
    if (!this.takeSign(".")) return name;
    const part = this.take();
    if (part.type !== "name") throw this.expected("a name after the dot", part);
    return `${name}.${part.value}`;
  }

  private single(): Formula {
    const token = this.take();
    const at: At = { start: token.start, end: token.end };
    switch (token.type) {
      case "number":
        return { type: "number", value: Number(token.value), at };
      case "text":
        return { type: "text", value: token.value, at };
      case "setting":
        return { type: "setting", name: token.value, at };
      case "quoted name":
        return { type: "column", name: token.value, at };
      case "word":
        if (token.value === "true" || token.value === "false")
          return { type: "boolean", value: token.value === "true", at };
        if (token.value === "missing")
          return this.takeSign("(") ? this.call("missing", token.start) : { type: "missing", at };
        throw this.expected("a value", token);
      case "name":
        if (this.takeSign("(")) return this.call(token.value, token.start);
        if (this.next.type === "sign" && this.next.value === ".") {
          const parts = [token.value];
          while (this.takeSign(".")) {
            const part = this.take();
            if (part.type !== "name" && part.type !== "quoted name") throw this.expected("a name after the dot", part);
            parts.push(part.value);
          }
          return {
            type: "selected",
            selection: parts.slice(0, -1).join("."),
            column: parts.at(-1) as string,
            at: this.span(token.start),
          };
        }
        return { type: "column", name: token.value, at };
      case "sign":
        if (token.value === "(") {
          const inner = this.or();
          if (!this.takeSign(")")) throw this.unclosed(token, ")");
          return inner;
        }
        if (token.value === "[") return { type: "list", items: this.items("]", token), at: this.span(token.start) };
        throw this.expected("a value", token);
      default:
        throw this.expected("a value", token);
    }
  }

  private call(name: string, start: number): Formula {
    const open = this.tokens[this.at - 1] as Token;
    if (this.next.value === "*")
      throw new FormulaProblem(
        "bad-formula",
        `${name}() takes no *; count() counts the rows`,
        start,
        this.next.end + 1,
        name === "count" ? { title: "write count()", text: "count()", start, end: this.next.end + 1 } : undefined,
      );
    const items = this.items(")", open);
    // What is called before in a recurrence is its own result, and no column.
    const own = name === "recur" && items.length === 2 ? [items[0] as Formula, withBefore(items[1] as Formula)] : items;
    return { type: "call", name, arguments: own, at: this.span(start) };
  }

  private items(close: string, open: Token): Formula[] {
    const items: Formula[] = [];
    if (this.takeSign(close)) return items;
    do items.push(this.or());
    while (this.takeSign(","));
    if (!this.takeSign(close))
      throw this.next.type === "end" ? this.unclosed(open, close) : this.expected(`a comma or ${close}`, this.next);
    return items;
  }

  private unclosed(open: Token, close: string): FormulaProblem {
    return new FormulaProblem("unbalanced", `this ${open.value} is never closed with ${close}`, open.start, open.end);
  }
}

/** Levels of a tree, looked at without recursion: it may be as deep as its text is long. */
function depthOf(formula: Formula): number {
  let deepest = 0;
  const open: [Formula, number][] = [[formula, 1]];
  for (let next = open.pop(); next; next = open.pop()) {
    const [node, depth] = next;
    if (depth > deepest) deepest = depth;
    for (const part of partsOf(node)) open.push([part, depth + 1]);
  }
  return deepest;
}

function parsing(text: string, allowName: boolean): Parsed {
  try {
    if (text.length > LIMITS.formulaLength)
      throw new FormulaProblem("too-long", boundMessage("formulaLength", text.length, "this formula"), 0, text.length);
    const value = new Reader(tokenize(text), text).whole(allowName);
    const depth = depthOf(value.formula);
    if (depth > LIMITS.formulaDepth)
      throw new FormulaProblem("too-deep", boundMessage("formulaDepth", depth, "this formula"), 0, text.length);
    return { ok: true, value };
  } catch (problem) {
    if (problem instanceof FormulaProblem) return { ok: false, problem };
    throw problem;
  }
}

/** Reads a formula. Errors are answered, not thrown, with their place in the text. */
export function parseFormula(text: string): Parsed {
  return parsing(text, false);
}

/** Reads `FORMULA` or `FORMULA as name`. */
export function parseNamed(text: string): Parsed {
  return parsing(text, true);
}

/** The formula of a recurrence, in which the name `before` stands for the result in the row before. */
const withBefore = (formula: Formula): Formula =>
  mapFormula(formula, (node) =>
    node.type === "column" && node.name === "before"
      ? { type: "before", ...(node.at ? { at: node.at } : {}) }
      : undefined,
  );
