import {
  type Document,
  isAlias,
  isCollection,
  isMap,
  isPair,
  isScalar,
  isSeq,
  LineCounter,
  type Node,
  type Pair,
  parseDocument,
  Scalar,
  visit,
  type YAMLParseError,
} from "yaml";
import type { Finding, Span } from "../finding/finding";
import { boundMessage, counted, LIMITS } from "../finding/limits";
import { spanOf } from "./node-span";
import { bareKeyFix, quoteLineFix } from "./quoting";
import { splitTexts } from "./split-texts";

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

/** Of very many mistakes only the first are said. */
const MOST_FINDINGS = 20;

function keyText(pair: Pair): string {
  const key = pair.key;
  return isScalar(key) ? String(key.source ?? key.value ?? "") : String(key);
}

function toTree(node: unknown): Tree {
  if (isScalar(node)) {
    if (node.type === Scalar.PLAIN) return node.source === undefined || node.source === "" ? null : node.source;
    return String(node.value ?? "");
  }
  if (isSeq(node)) return node.items.map((item) => toTree(item));
  if (isMap(node)) {
    const map: { [key: string]: Tree } = Object.create(null);
    for (const pair of node.items) map[keyText(pair)] = toTree(pair.value);
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
    findings.push({
      code: "yaml-extra",
      severity: "error",
      message: `${what} does not belong in a sheet${quotable ? "; a text that begins like this is put in quotes" : ""}`,
      span,
      ...(quotable ? { fix: quoteLineFix(text, span.start) } : {}),
    });
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
      else if (tag && /!/.test(text.slice(lineStart, span.start)))
        refuse(`a tag, ${tag},`, { start: mark("!"), end: span.end }, true);
    }
    return undefined;
  });
  const directive = /^%.*$/m.exec(text.slice(0, 2000));
  if (directive && document.directives?.docStart)
    refuse("a directive", { start: directive.index, end: directive.index + directive[0].length }, false);
}

/** Keys that stand twice in a map: one finding for each, however often it stands there. */
function doubledKeys(document: Document, findings: Finding[]) {
  let more = 0;
  visit(document, (_, node) => {
    if (!isMap(node)) return undefined;
    const times = new Map<string, { count: number; span: Span | undefined }>();
    for (const pair of node.items) {
      const name = keyText(pair);
      const known = times.get(name);
      times.set(name, {
        count: (known?.count ?? 0) + 1,
        span: known?.count === 1 ? spanOf(pair.key as Node) : known?.span,
      });
    }
    for (const { count, span } of times.values()) {
      if (count === 1) continue;
      if (findings.length < MOST_FINDINGS)
        findings.push({
          code: "doubled-key",
          severity: "error",
          message: `this key stands ${count === 2 ? "twice" : `${counted(count)} times`} in one map`,
          ...(span ? { span } : {}),
        });
      else more += 1;
    }
    return undefined;
  });
  if (more)
    findings.push({ code: "doubled-key", severity: "error", message: `${counted(more)} more keys stand twice` });
}

/** Levels of a document, looked at without recursion. */
function depthOf(document: Document): number {
  let deepest = 0;
  const open: [unknown, number][] = [[document.contents, 1]];
  for (let next = open.pop(); next; next = open.pop()) {
    const [node, depth] = next;
    if (depth > deepest) deepest = depth;
    if (isCollection(node)) for (const item of node.items) open.push([isPair(item) ? item.value : item, depth + 1]);
  }
  return deepest;
}

const EMPTY = () => parseDocument("", { schema: "failsafe" });

/** The text as a document; one that is too long, or deeper than can be read, is a finding and an empty one. */
function documentOf(text: string, lines: LineCounter, findings: Finding[]): Document {
  const refuse = (bound: "sheetLength" | "sheetDepth", found: number) => {
    findings.push({
      code: bound === "sheetLength" ? "too-long" : "too-deep",
      severity: "error",
      message: boundMessage(bound, found, "this sheet"),
    });
    return EMPTY();
  };
  if (text.length > LIMITS.sheetLength) return refuse("sheetLength", text.length);
  try {
    // Keys that stand twice are found by us, in one go: the package compares each with every other.
    const document = parseDocument(text, {
      schema: "failsafe",
      lineCounter: lines,
      uniqueKeys: false,
      strict: true,
      prettyErrors: false,
    });
    const depth = depthOf(document);
    return depth > LIMITS.sheetDepth ? refuse("sheetDepth", depth) : document;
  } catch (fault) {
    // The package goes down into lists by recursion; thousands of them in one another exhaust it.
    if (!(fault instanceof RangeError)) throw fault;
    return refuse("sheetDepth", Math.max(LIMITS.sheetDepth + 1, deepestBrackets(text)));
  }
}

/** The most brackets that are open at one place: how deep a text is that could not be read. */
function deepestBrackets(text: string): number {
  let [open, deepest] = [0, 0];
  for (const sign of text) {
    if (sign === "[" || sign === "{") deepest = Math.max(deepest, ++open);
    else if ((sign === "]" || sign === "}") && open > 0) open -= 1;
  }
  return deepest;
}

const BACKTICK = "; a key stands as it is, and a formula that begins with a backtick in quotes";

/**
 * What stands wrong by itself: one thing on each line, and nothing that is only taken for the end of the text since
 * a bracket before it could not be read.
 */
function withoutFollowing(errors: readonly YAMLParseError[], text: string): YAMLParseError[] {
  const lineOf = ({ pos }: YAMLParseError) => text.lastIndexOf("\n", pos[0] - 1);
  return errors.filter(
    (error, at) =>
      at === 0 || (!/in YAML stream/.test(error.message) && lineOf(error) !== lineOf(errors[at - 1] as YAMLParseError)),
  );
}

/** Reads a sheet's text. Nothing is thrown: what YAML refuses becomes findings with a place. */
export function readTree(text: string): SourceTree {
  const findings: Finding[] = [];
  const document = documentOf(text, new LineCounter(), findings);
  for (const error of withoutFollowing(document.errors, text).slice(0, MOST_FINDINGS)) {
    const [start, end] = error.pos;
    findings.push({
      code: "yaml",
      severity: "error",
      message:
        `this cannot be read as YAML: ${error.message.replace(/\s+/g, " ")}` + `${text[start] === "`" ? BACKTICK : ""}`,
      span: { start: Math.min(start, text.length), end: Math.min(text.length, Math.max(start, end)) },
      fix: bareKeyFix(text, start) ?? quoteLineFix(text, start),
    });
  }
  if (document.errors.length === 0) {
    doubledKeys(document, findings);
    forbidden(document, text, findings);
    findings.push(...splitTexts(document, text));
  }
  const tree = toTree(document.contents);
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
      if (node.type === Scalar.PLAIN && !source.includes("\n"))
        return { start: span.start + start, end: Math.min(span.end, span.start + end) };
      const quoted = node.type === Scalar.QUOTE_DOUBLE || node.type === Scalar.QUOTE_SINGLE;
      if (quoted && source.slice(1, -1) === node.value)
        return { start: span.start + 1 + start, end: span.start + 1 + end };
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
