import {
  type Document,
  isMap,
  isPair,
  isScalar,
  isSeq,
  type Node,
  type Pair,
  Scalar,
  visit,
  type YAMLMap,
  type YAMLSeq,
} from "yaml";
import type { Finding } from "../finding/finding";
import { spanOf } from "./node-span";
import { balanceOf, quoteFix } from "./quoting";

/** From the first to the last of the pieces of one text. */
type Split = [first: Node, last: Node];

/** Texts that YAML has split at a comma inside `{}` or `[]`. */
export function splitTexts(document: Document, text: string): Finding[] {
  const found: Split[] = [];
  visit(document, (_, node, path) => {
    if (isMap(node) && node.flow) found.push(...splitInMap(node));
    if (isSeq(node) && node.flow) found.push(...splitInList(node, isLinks(path) ? sentenceEnd : formulaEnd(text)));
  });
  return found.map(([first, last]) => {
    const span = { start: spanOf(first)?.start ?? 0, end: spanOf(last)?.end ?? 0 };
    return {
      code: "split-text",
      severity: "error",
      message: "YAML has split this text at a comma; inside {} and [] a text with commas is put in quotes",
      span,
      fix: quoteFix(text, span.start, span.end),
    };
  });
}

/** In a map the rest of a text stands as keys without a value. */
function splitInMap({ items }: YAMLMap): Split[] {
  const found: Split[] = [];
  for (let at = 0; at < items.length; at++) {
    const first = (items[at] as Pair).value;
    const begin = at;
    while (at + 1 < items.length && (items[at + 1] as Pair).value === null) at += 1;
    if (at > begin && isScalar(first) && first.type === Scalar.PLAIN)
      found.push([first, (items[at] as Pair).key as Node]);
  }
  return found;
}

/** The place of the item with which a text ends that begins with another; nothing where it is whole, or never ends. */
type EndOf = (items: readonly Node[], first: number) => number | undefined;

function splitInList({ items }: YAMLSeq, endOf: EndOf): Split[] {
  const found: Split[] = [];
  const nodes = items as Node[];
  for (let at = 0; at < nodes.length; at++) {
    const first = nodes[at] as Node;
    const end = isScalar(first) && first.type === Scalar.PLAIN ? endOf(nodes, at) : undefined;
    if (end === undefined) continue;
    found.push([first, nodes[end] as Node]);
    at = end;
  }
  return found;
}

/** A formula ends where its brackets and quotes are closed. */
const formulaEnd =
  (text: string): EndOf =>
  (items, first) => {
    const start = spanOf(items[first] as Node)?.start ?? 0;
    const isWhole = (item: Node | undefined) => balanceOf(text.slice(start, spanOf(item)?.end)) === "balanced";
    if (isWhole(items[first])) return undefined;
    const end = items.findIndex((item, at) => at > first && isWhole(item));
    return end < 0 ? undefined : end;
  };

/** The list of links of the sheet itself, whose items are sentences. */
function isLinks(path: readonly unknown[]): boolean {
  const pair = path.at(-1);
  return path.length === 3 && isPair(pair) && isScalar(pair.key) && pair.key.value === "links";
}

/** Every sentence but one has an arrow: what follows without one are its further targets and effects. */
const sentenceEnd: EndOf = (items, first) => {
  const textOf = (item: Node | undefined) => (isScalar(item) ? String(item.source ?? item.value) : "->");
  if (!textOf(items[first]).includes("->")) return undefined;
  let end = first;
  while (end + 1 < items.length && !/->|^cross-filter\b/.test(textOf(items[end + 1]))) end += 1;
  return end === first ? undefined : end;
};

/** Those of a sheet's findings that say that a text is split. */
export const splitsAmong = (findings: readonly Finding[]) => findings.filter(({ code }) => code === "split-text");

/**
 * Leaves out findings that speak of a piece of a split text as if it were one of its own; the split is then said of
 * what they were about. Splits and findings are those of one file: what stands in another one is left alone.
 */
export function leaveOutRest(findings: Finding[], splits: readonly Finding[]): void {
  const left = findings.filter((finding) => {
    const whole = splits.find((split) => split !== finding && holds(split, finding));
    if (whole && finding.piece !== undefined) whole.piece ??= finding.piece;
    return !whole;
  });
  findings.splice(0, findings.length, ...left);
}

const holds = ({ span: whole }: Finding, { span, file }: Finding) =>
  file === undefined && whole && span?.file === undefined && span && span.start >= whole.start && span.end <= whole.end;
