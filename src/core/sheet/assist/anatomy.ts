import { isMap, isScalar, isSeq, type Node, type Pair, parseDocument, Scalar } from "yaml";
import { type Token, tokenize } from "../../formula/tokens";
import { schemasAt } from "../issues";
import { parseLink } from "../link-sentence";
import type { Role } from "../scalars";
import { topSchema } from "../schema";
import type { Path } from "../tree";

/** What a stretch of a sheet is, for its colour and its help. */
export type Part =
  | "key"
  | "name"
  | "comment"
  | "column"
  | "function"
  | "setting"
  | "text"
  | "number"
  | "word"
  | "sign"
  | "plain";

export interface Stretch {
  start: number;
  end: number;
  part: Part;
  /** Where in the sheet it stands; the path of a key ends in the key itself. */
  path: Path;
}

/** Sheets beyond this are written by scripts, hold tables, and are shown without colours. */
const MOST = 300_000;

/** The role of the text at a path, as the schema says it; nothing where only maps and lists stand. */
export function roleAt(path: Path): Role | undefined {
  for (const schema of schemasAt(topSchema, path)) {
    const role = (schema as unknown as { meta?: () => { role?: Role } | undefined }).meta?.()?.role;
    if (role) return role;
  }
  return undefined;
}

/** Cuts a sheet's text into stretches by what they are. Never throws: what cannot be read is left plain. */
export function anatomy(text: string): Stretch[] {
  if (text.length > MOST) return [];
  const stretches: Stretch[] = [];
  const document = parseDocument(text, { schema: "failsafe", prettyErrors: false, uniqueKeys: false });
  walkNode(text, document.contents as Node | null, [], stretches);
  comments(text, stretches);
  return stretches.sort((a, b) => a.start - b.start);
}

/** Comments are found between what was read: a `#` inside a text is none. */
function comments(text: string, stretches: Stretch[]) {
  const taken = [...stretches].sort((a, b) => a.start - b.start);
  let at = 0;
  for (const match of text.matchAll(/(?:^|[ \t])(#.*)$/gm)) {
    const start = match.index + match[0].length - (match[1] as string).length;
    while (at < taken.length && (taken[at] as Stretch).end <= start) at += 1;
    const next = taken[at];
    if (next && next.start < start && next.end > start) continue;
    stretches.push({ start, end: start + (match[1] as string).length, part: "comment", path: [] });
  }
}

function walkNode(text: string, node: Node | null | undefined, path: Path, stretches: Stretch[]) {
  if (isMap(node)) {
    const named = path.length === 1 && (path[0] === "tables" || path[0] === "charts" || path[0] === "controls");
    for (const pair of node.items as Pair[]) {
      const key = pair.key as Node;
      if (!isScalar(key) || !key.range) continue;
      const own = [...path, String(key.source ?? key.value)];
      stretches.push({ start: key.range[0], end: key.range[1], part: named ? "name" : "key", path: own });
      walkNode(text, pair.value as Node | null, own, stretches);
    }
  } else if (isSeq(node))
    for (const [place, item] of node.items.entries()) walkNode(text, item as Node, [...path, place], stretches);
  else if (isScalar(node) && node.range) scalar(text, node, path, stretches);
}

function scalar(text: string, node: Scalar, path: Path, stretches: Stretch[]) {
  const [start, end] = node.range as [number, number, number];
  if (end <= start) return;
  const role = roleAt(path);
  const source = text.slice(start, end);
  const isBlock = node.type === Scalar.BLOCK_LITERAL || node.type === Scalar.BLOCK_FOLDED;
  const inset = node.type === Scalar.QUOTE_DOUBLE || node.type === Scalar.QUOTE_SINGLE ? 1 : 0;
  if (role === "formula" || role === "sort item") {
    const inner = source.slice(inset, source.length - inset);
    const asWritten = inner === String(inset ? node.value : (node.source ?? ""));
    const parts = asWritten
      ? formulaParts(role === "sort item" && inner.startsWith("-") ? ` ${inner.slice(1)}` : inner)
      : undefined;
    if (parts) {
      for (const part of parts)
        stretches.push({ start: start + inset + part.start, end: start + inset + part.end, part: part.part, path });
      return;
    }
  }
  if (role === "link" && !isBlock) {
    for (const part of linkParts(source.slice(inset, source.length - inset)))
      stretches.push({ ...part, start: part.start + start + inset, end: part.end + start + inset, path });
    return;
  }
  const part: Part = inset
    ? "text"
    : role === "number"
      ? "number"
      : role === "choice" || role === "switch"
        ? "word"
        : role === "colour" || role === "format"
          ? "text"
          : role === "table" || role === "name"
            ? "name"
            : "plain";
  stretches.push({ start, end, part, path });
}

const TOKEN_PARTS: Partial<Record<Token["type"], Part>> = {
  number: "number",
  text: "text",
  "quoted name": "column",
  setting: "setting",
  word: "word",
  sign: "sign",
};

function formulaParts(formula: string): { start: number; end: number; part: Part }[] | undefined {
  let tokens: Token[];
  try {
    tokens = tokenize(formula);
  } catch {
    // A formula in the middle of being written: its finding says what is wrong, the colour can wait.
    return undefined;
  }
  return tokens.flatMap((token, place) => {
    if (token.type === "end") return [];
    const next = tokens[place + 1];
    const part: Part =
      token.type === "name"
        ? next?.value === "(" && next.type === "sign"
          ? "function"
          : "column"
        : (TOKEN_PARTS[token.type] ?? "plain");
    return [{ start: token.start, end: token.end, part }];
  });
}

function linkParts(sentence: string): { start: number; end: number; part: Part }[] {
  const { sentence: read } = parseLink(sentence);
  if (!read) return [{ start: 0, end: sentence.length, part: "plain" }];
  const names =
    read.type === "cross-filter"
      ? [read.table]
      : [read.source, ...read.by, ...(read.as ? [read.as] : []), ...read.effects.flatMap(({ targets }) => targets)];
  const parts: { start: number; end: number; part: Part }[] = names.map(({ start, end }) => ({
    start,
    end,
    part: "name",
  }));
  for (const match of sentence.matchAll(/[a-z-]+/g)) {
    const end = match.index + match[0].length;
    if (!names.some((name) => match.index < name.end && end > name.start))
      parts.push({ start: match.index, end, part: "word" });
  }
  return parts;
}
