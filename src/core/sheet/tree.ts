import { type Document, isAlias, isCollection, isMap, isPair, isScalar, isSeq, LineCounter, type Node, type Pair, parseDocument, Scalar, visit } from "yaml";
import type { Finding, Span } from "../finding/finding";
import { balanceOf, quoteFix, quoteLineFix } from "./quoting";

/** A plain value read from a sheet: scalars are their source text, an empty value is `null`. */
export type Tree = string | null | Tree[] | { [key: string]: Tree };

export type Path = readonly (string | number)[];

/** A sheet's text read as YAML, with the place of every key and value. */
export interface SourceTree {
  text: string;
  tree: Tree;
  findings: Finding[];
  /** Where the value at a path stands. */
  valueSpan(path: Path): Span | undefined;
  /** Where the key at a path stands; the value for items of lists. */
  keySpan(path: Path): Span | undefined;
  /** Where a stretch inside the scalar at a path stands in the sheet. */
  insideSpan(path: Path, start: number, end: number): Span | undefined;
  /** How the value at the path was written. */
  styleOf(path: Path): "plain" | "quoted" | "block" | "flow" | "none";
}

const MOST_TEXT = 4_000_000;
const DEEPEST = 60;

function spanOf(node: Node | null | undefined): Span | undefined {
  const range = node?.range;
  return range ? { start: range[0], end: Math.max(range[0], range[1]) } : undefined;
}

function keyText(pair: Pair): string {
  const key = pair.key;
  return isScalar(key) ? String(key.source ?? key.value ?? "") : String(key);
}

function toTree(node: unknown, depth: number): Tree {
  if (depth > DEEPEST) return null;
  if (isScalar(node)) {
    if (node.type === Scalar.PLAIN) return node.source === undefined || node.source === "" ? null : node.source;
    return String(node.value ?? "");
  }
  if (isSeq(node)) return node.items.map((item) => toTree(item, depth + 1));
  if (isMap(node)) {
    const map: { [key: string]: Tree } = Object.create(null);
    for (const pair of node.items) map[keyText(pair)] = toTree(pair.value, depth + 1);
    return map;
  }
  return null;
}

function findNode(document: Document, path: Path): { node: Node | null | undefined; pair?: Pair } {
  let node = document.contents as Node | null | undefined;
  let pair: Pair | undefined;
  for (const part of path) {
    pair = undefined;
    if (isMap(node)) {
      pair = node.items.find((item) => keyText(item) === String(part));
      if (!pair) return { node: undefined };
      node = pair.value as Node | null;
    } else if (isSeq(node)) {
      const item = node.items[Number(part)];
      node = isPair(item) ? undefined : (item as Node | undefined);
    } else return { node: undefined };
  }
  return pair ? { node, pair } : { node };
}

/** What the sheet's grammar leaves out of YAML: each would let a text be read as something else. */
function forbidden(document: Document, text: string, findings: Finding[]) {
  const refuse = (what: string, span: Span, quotable: boolean) => {
    findings.push({ code: "yaml-extra", severity: "error", message: `${what} does not belong in a sheet${quotable ? "; a text that begins like this is put in quotes" : ""}`, span, ...(quotable ? { fix: quoteLineFix(text, span.start) } : {}) });
  };
  visit(document, (_, node) => {
    if (isAlias(node)) refuse(`an alias, *${node.source},`, spanOf(node) ?? { start: 0, end: 1 }, true);
    else if (isScalar(node) || isCollection(node)) {
      const { anchor, tag } = node as { anchor?: string; tag?: string };
      const span = spanOf(node) ?? { start: 0, end: 1 };
      const lineStart = text.lastIndexOf("\n", span.start - 1) + 1;
      const mark = (sign: string) => {
        const at = text.lastIndexOf(sign, span.start);
        return at >= lineStart ? at : span.start;
      };
      if (anchor) refuse(`an anchor, &${anchor},`, { start: mark("&"), end: span.end }, true);
      else if (tag && /!/.test(text.slice(lineStart, span.start))) refuse(`a tag, ${tag},`, { start: mark("!"), end: span.end }, true);
    }
    return undefined;
  });
  const directive = /^%.*$/m.exec(text.slice(0, 2000));
  if (directive && document.directives?.docStart) refuse("a directive", { start: directive.index, end: directive.index + directive[0].length }, false);
}

/** Texts that YAML has split at a comma inside `{}` or `[]`. */
function splitTexts(document: Document, text: string, findings: Finding[]) {
  const blame = (start: number, end: number) => {
    findings.push({ code: "split-text", severity: "error", message: "YAML has split this text at a comma; inside {} and [] a text with commas is put in quotes", span: { start, end }, fix: quoteFix(text, start, end) });
  };
  visit(document, (_, node) => {
    if (isMap(node) && node.flow) {
      for (let at = 0; at < node.items.length; at++) {
        const first = node.items[at] as Pair;
        let last = at;
        while (last + 1 < node.items.length && (node.items[last + 1] as Pair).value === null) last += 1;
        if (last === at || !isScalar(first.value) || first.value.type !== Scalar.PLAIN) continue;
        const start = spanOf(first.value)?.start ?? 0;
        const end = spanOf((node.items[last] as Pair).key as Node)?.end ?? start;
        blame(start, end);
        at = last;
      }
    }
    if (isSeq(node) && node.flow) {
      for (let at = 0; at < node.items.length; at++) {
        const first = node.items[at];
        if (!isScalar(first) || first.type !== Scalar.PLAIN) continue;
        const start = spanOf(first)?.start ?? 0;
        if (balanceOf(text.slice(start, spanOf(first)?.end)) === "balanced") continue;
        let last = at + 1;
        let end = start;
        for (; last < node.items.length; last++) {
          end = spanOf(node.items[last] as Node)?.end ?? end;
          if (balanceOf(text.slice(start, end)) === "balanced") break;
        }
        if (last >= node.items.length) continue;
        blame(start, end);
        at = last;
      }
    }
    return undefined;
  });
}

/** Reads a sheet's text. Nothing is thrown: what YAML refuses becomes findings with a place. */
export function readTree(text: string): SourceTree {
  const findings: Finding[] = [];
  const lines = new LineCounter();
  const tooLong = text.length > MOST_TEXT;
  const document = parseDocument(tooLong ? "" : text, { schema: "failsafe", lineCounter: lines, uniqueKeys: true, strict: true, prettyErrors: false });
  if (tooLong) findings.push({ code: "too-long", severity: "error", message: "a sheet of over 4 MB is not read; tables belong into files of their own" });
  for (const error of document.errors) {
    const [start, end] = error.pos;
    const duplicate = error.code === "DUPLICATE_KEY";
    const message = duplicate ? "this key stands twice in one map" : `this cannot be read as YAML: ${error.message.replace(/\s+/g, " ")}`;
    const fix = duplicate ? undefined : quoteLineFix(text, start);
    findings.push({ code: duplicate ? "doubled-key" : "yaml", severity: "error", message, span: { start: Math.min(start, text.length), end: Math.min(text.length, Math.max(start, end)) }, ...(fix ? { fix } : {}) });
    if (findings.length > 20) break;
  }
  if (document.errors.length === 0) {
    forbidden(document, text, findings);
    splitTexts(document, text, findings);
  }
  const tree = toTree(document.contents, 0);
  const at = (path: Path) => findNode(document, path);
  return {
    text,
    tree,
    findings,
    valueSpan(path) {
      const { node, pair } = at(path);
      return spanOf(node) ?? spanOf(pair?.key as Node | undefined);
    },
    keySpan(path) {
      const { node, pair } = at(path);
      return spanOf(pair?.key as Node | undefined) ?? spanOf(node);
    },
    insideSpan(path, start, end) {
      const { node } = at(path);
      const span = spanOf(node);
      if (!span || !isScalar(node)) return span;
      const source = text.slice(span.start, span.end);
      if (node.type === Scalar.PLAIN && !source.includes("\n")) return { start: span.start + start, end: Math.min(span.end, span.start + end) };
      const quoted = node.type === Scalar.QUOTE_DOUBLE || node.type === Scalar.QUOTE_SINGLE;
      if (quoted && source.slice(1, -1) === node.value) return { start: span.start + 1 + start, end: span.start + 1 + end };
      return span;
    },
    styleOf(path) {
      const { node } = at(path);
      if (isScalar(node)) {
        if (node.type === Scalar.PLAIN) return "plain";
        return node.type === Scalar.QUOTE_DOUBLE || node.type === Scalar.QUOTE_SINGLE ? "quoted" : "block";
      }
      if (isCollection(node)) return node.flow ? "flow" : "block";
      return "none";
    },
  };
}
