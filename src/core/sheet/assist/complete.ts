import { SIGNATURES, writeSignature } from "../../formula/signatures";
import { writeName } from "../../formula/words";
import { EFFECTS } from "../../link/effects/index";
import { GESTURES } from "../../link/gestures/index";
import { uselessKeys } from "../piece-keys";
import type { Path } from "../tree";
import { roleAt } from "./anatomy";
import { keyHelp, keysOf, wordsAt } from "./help";
import type { Knowledge, KnownColumn } from "./knowledge";
import { placeAt, type SheetPlace } from "./place-at";
import { columnsAt, drawOf, tableOf } from "./scope-at";

/** One thing that could be written at the cursor. */
export interface Proposal {
  /** What is shown, and by which it is found. */
  label: string;
  /** What is written; the label if absent. `|` in it says where the cursor goes. */
  insert?: string;
  kind: "key" | "word" | "column" | "function" | "setting" | "table" | "piece" | "file" | "value";
  /** A few words beside it: a kind with sample values, a signature. */
  detail?: string;
  /** A sentence of help. */
  says?: string;
}

export interface Completion {
  from: number;
  to: number;
  proposals: Proposal[];
}

const columnDetail = (column: KnownColumn) =>
  [`${column.kind}${column.unit ? `, ${column.unit}` : ""}`, column.samples.slice(0, 3).join(" · ")]
    .filter(Boolean)
    .join(": ");

function columnProposal(column: KnownColumn, inFormula: boolean): Proposal {
  const written = inFormula ? writeName(column.name) : column.name;
  return {
    label: column.name,
    kind: "column",
    detail: columnDetail(column),
    ...(written === column.name ? {} : { insert: written }),
  };
}

const FUNCTIONS: readonly Proposal[] = SIGNATURES.map((signature) => ({
  label: signature.name,
  insert: signature.parameters.length ? `${signature.name}(|)` : `${signature.name}()`,
  kind: "function",
  detail: writeSignature(signature),
  says: `${signature.says} Example: ${signature.example}`,
}));

const FORMULA_WORDS: readonly Proposal[] = [
  "and",
  "or",
  "not",
  "in",
  "between",
  "missing",
  "true",
  "false",
  "as",
  "of all",
].map((label) => ({ label, kind: "word" }));

function formulaProposals(text: string, path: Path, knowledge: Knowledge): Proposal[] {
  return [
    ...columnsAt(text, path, knowledge).map((column) => columnProposal(column, true)),
    ...knowledge.settings.map((name): Proposal => ({ label: `$${name}`, kind: "setting", detail: "setting" })),
    ...FUNCTIONS,
    ...FORMULA_WORDS,
  ];
}

const pieces = (names: readonly string[]): Proposal[] => names.map((label) => ({ label, kind: "piece" }));
const tables = (knowledge: Knowledge): Proposal[] =>
  [...knowledge.tables].map(([label, stages]) => ({
    label,
    kind: "table",
    detail: `${stages.at(-1)?.length ?? 0} columns`,
  }));

/** What may come next in the sentence of a link, by the words before it. */
function linkProposals(before: string, knowledge: Knowledge, text: string): Proposal[] {
  const words = before.split(/[\s,]+/).filter(Boolean);
  const open = /[\s,]$/.test(before) || before === "";
  const done = open ? words : words.slice(0, -1);
  const last = done.at(-1);
  const effects = (): Proposal[] => EFFECTS.map((label) => ({ label, kind: "word", detail: "effect" }));
  if (done.length === 0)
    return [
      ...GESTURES.map((label): Proposal => ({ label, insert: `${label} on |`, kind: "word", detail: "gesture" })),
      {
        label: "cross-filter",
        insert: "cross-filter |",
        kind: "word",
        detail: "every chart of a table filters all others",
      },
    ];
  if (last === "cross-filter") return tables(knowledge);
  if (last === "on") return pieces(knowledge.charts);
  if (last === "->") return effects();
  const arrow = done.lastIndexOf("->");
  if (arrow < 0) {
    const by = done.lastIndexOf("by");
    const source = done[done.indexOf("on") + 1];
    if (by >= 0 && (last === "by" || /,\s*\S*$/.test(before)))
      return (source ? (knowledge.tables.get(tableOf(text, "charts", source) ?? "")?.at(-1) ?? []) : []).map((column) =>
        columnProposal(column, false),
      );
    if (done.includes("on") && source)
      return [
        { label: "->", insert: "-> ", kind: "word" },
        { label: "by", insert: "by ", kind: "word", detail: "every row with the same value there" },
        { label: "as", insert: "as ", kind: "word", detail: "a name for the selection" },
      ];
    return [{ label: "on", insert: "on ", kind: "word" }];
  }
  return [
    ...pieces(knowledge.charts),
    { label: "all", kind: "word", detail: "every other chart of the table" },
    ...effects(),
  ];
}

/** Values that a text at a path may take. */
function valueProposals(text: string, place: SheetPlace, knowledge: Knowledge): Proposal[] {
  const { path } = place;
  const role = roleAt(path);
  const words = wordsAt(path).map((label): Proposal => ({ label, kind: "word" }));
  if (path[0] === "pages" && (path.includes("grid") || path.includes("side")))
    return path.includes("side")
      ? pieces(knowledge.controls)
      : [
          ...pieces(knowledge.charts),
          ...pieces(knowledge.controls),
          { label: ".", kind: "word", detail: "an empty cell" },
        ];
  if (path[0] === "controls" && (path.includes("only") || path.includes("fade"))) return pieces(knowledge.charts);
  if (role === "link") return linkProposals(place.before, knowledge, text);
  if (role === "formula" || role === "sort item") return [...words, ...formulaProposals(text, path, knowledge)];
  if (role === "table") return tables(knowledge);
  if (role === "file") return knowledge.files.map((label) => ({ label, kind: "file" }));
  if (role === "name") return columnsAt(text, path, knowledge).map((column) => columnProposal(column, false));
  return words;
}

/** Keys that a map at a path may still get; for maps of the author's own names, the names that make sense. */
function keyProposals(text: string, place: SheetPlace, knowledge: Knowledge): Proposal[] {
  const { path, present } = place;
  const useless = path[0] === "charts" && path.length === 2 ? uselessKeys(drawOf(text, String(path[1]))) : [];
  const known = keysOf(path).filter((key) => !present.includes(key) && !useless.includes(key));
  const named = path[0] === "tables" && (path[2] === "columns" || path.at(-1) === "rename") && path.length >= 3;
  const columns =
    named && known.length === 0 ? columnsAt(text, path, knowledge).filter(({ name }) => !present.includes(name)) : [];
  return [
    ...known.map((key): Proposal => {
      const help = keyHelp([...path, key]);
      return {
        label: key,
        insert: `${key}: |`,
        kind: "key",
        ...(help?.says ? { says: help.says } : {}),
        ...(help?.takes ? { detail: help.takes } : {}),
      };
    }),
    ...columns.map(
      (column): Proposal => ({
        label: column.name,
        insert: `${column.name}: |`,
        kind: "column",
        detail: columnDetail(column),
      }),
    ),
  ];
}

/** What could be written at an offset of a sheet, also of one that is half written. */
export function complete(text: string, offset: number, knowledge: Knowledge): Completion {
  const place = placeAt(text, offset);
  const lastWord = /[\p{L}\p{N}_$`.-]*$/u.exec(place.before)?.[0] ?? "";
  if (place.what === "value")
    return { from: offset - lastWord.length, to: offset, proposals: valueProposals(text, place, knowledge) };
  // An item of a list can be a text as well as the first key of a map.
  const item =
    typeof place.path.at(-1) === "number" ? valueProposals(text, { ...place, what: "value" }, knowledge) : [];
  // Behind the first word it is a text.
  const keys = item.length && /\S\s/.test(place.before) ? [] : keyProposals(text, place, knowledge);
  if (item.length && keys.length === 0) {
    // A gesture of two words is one proposal, so the sentence's start is replaced as a whole.
    const from =
      roleAt(place.path) === "link" && !/ on\s/.test(place.before)
        ? offset - place.before.length
        : offset - lastWord.length;
    return { from, to: offset, proposals: item };
  }
  return { from: place.from, to: offset, proposals: [...keys, ...item] };
}
