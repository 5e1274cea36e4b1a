import { isMap, isSeq, type Node, type Pair, type YAMLMap, type YAMLSeq } from "yaml";
import type { TextEdit } from "../../finding/finding";
import { writeScalar } from "../quoting";
import {
  blockEnd,
  columnOf,
  documentOf,
  nodeAt,
  pairOf,
  removeValue,
  type SheetValue,
  setValue,
  startOf,
  valueEnd,
  writeValue,
} from "./edit";

/**
 * Steps by gesture. Each is written as a person would have written it: formulas bare in a line of
 * their own where YAML allows, short maps in braces, and every other byte of the sheet as it was.
 */

/** A step as keys and values: `{keep: "tonnes > 0", why: "…"}`. */
export type StepValue = { [key: string]: SheetValue };

/** Longer than this a map in braces is hard to read and stands in lines. */
const WIDE = 100;

const isPlainMap = (value: SheetValue): value is { [key: string]: SheetValue } =>
  typeof value === "object" && !Array.isArray(value);

/** Formulas stand in lines of their own. */
const IN_LINES = new Set(["add"]);

function keyLines(key: string, value: SheetValue, indent: string): string[] {
  const head = `${indent}${writeScalar(key, false)}:`;
  const flow = `${head} ${writeValue(value)}`;
  if (!isPlainMap(value) || Object.keys(value).length === 0) return [flow];
  if (!IN_LINES.has(key) && flow.length <= WIDE) return [flow];
  return [head, ...Object.entries(value).flatMap(([name, inner]) => keyLines(name, inner, `${indent}  `))];
}

/** The lines of a step as an item of a list whose dashes stand at `indent`. */
function stepLines(step: StepValue, indent: string): string[] {
  const lines = Object.entries(step).flatMap(([key, value]) => keyLines(key, value, `${indent}  `));
  const [first, ...rest] = lines;
  return [`${indent}- ${(first as string).trimStart()}`, ...rest];
}

interface Steps {
  list: YAMLSeq;
  /** Spaces before the dashes. */
  indent: string;
}

function stepsOf(text: string, table: string): Steps | undefined {
  const list = nodeAt(documentOf(text).contents as Node | null, ["tables", table, "steps"]);
  if (!isSeq(list) || list.flow || list.items.length === 0) return undefined;
  return { list, indent: " ".repeat(columnOf(text, startOf(list as unknown as Node))) };
}

/** Where an item's lines begin, comments right above it included, and where the next line after it begins. */
function stretchOf(text: string, { list, indent }: Steps, at: number): { start: number; end: number } {
  const item = list.items[at] as Node;
  let start = text.lastIndexOf("\n", startOf(item) - 1) + 1;
  for (;;) {
    const above = text.lastIndexOf("\n", start - 2) + 1;
    const line = text.slice(above, Math.max(above, start - 1));
    if (start === 0 || !line.startsWith(`${indent}#`)) break;
    start = above;
  }
  const end = Math.min(text.length, blockEnd(text, item) + 1);
  return { start, end };
}

/** Writes a step so that it becomes the one at `at` of a table; those from there on move down. */
export function insertStep(text: string, table: string, at: number, step: StepValue): TextEdit[] | undefined {
  const steps = stepsOf(text, table);
  if (steps) {
    const lines = stepLines(step, steps.indent);
    if (at < steps.list.items.length) {
      const { start } = stretchOf(text, steps, at);
      return [{ start, end: start, text: `${lines.join("\n")}\n` }];
    }
    const end = blockEnd(text, steps.list as unknown as Node);
    return [{ start: end, end, text: `\n${lines.join("\n")}` }];
  }
  const root = documentOf(text).contents as Node | null;
  const node = nodeAt(root, ["tables", table]);
  const list = isMap(node) ? pairOf(node, "steps")?.value : undefined;
  if (isSeq(list) && list.flow && list.items.length) return insertInFlow(list, at, step);
  if (!isMap(node)) return undefined;
  if (isMap(root) && root.flow) return setValue(text, ["tables", table, "steps"], [step]);
  return node.flow ? asLines(text, node, step) : addSteps(text, node, step);
}

function insertInFlow(list: YAMLSeq, at: number, step: StepValue): TextEdit[] {
  const written = writeValue(step, true);
  const before = list.items[at] as Node | undefined;
  if (before) return [{ start: startOf(before), end: startOf(before), text: `${written}, ` }];
  const end = valueEnd(list.items.at(-1) as Node);
  return [{ start: end, end, text: `, ${written}` }];
}

function addSteps(text: string, node: YAMLMap, step: StepValue): TextEdit[] {
  const indent = " ".repeat(columnOf(text, startOf(node.items[0]?.key as Node)));
  const old = pairOf(node, "steps");
  const lines = stepLines(step, `${indent}  `).join("\n");
  if (old) {
    // `steps:` with nothing under it, or an empty list.
    const start = valueEnd(old.key as Node);
    const end = old.value ? Math.max(start, valueEnd(old.value as Node)) : text.indexOf(":", start) + 1;
    return [{ start, end, text: `:\n${lines}` }];
  }
  const end = blockEnd(text, node as unknown as Node);
  return [{ start: end, end, text: `\n${indent}steps:\n${lines}` }];
}

/** A table that stood in braces is written in lines, each value as it was. */
function asLines(text: string, node: YAMLMap, step: StepValue): TextEdit[] {
  const lineStart = text.lastIndexOf("\n", startOf(node as unknown as Node) - 1) + 1;
  const indent = `${/^ */.exec(text.slice(lineStart))?.[0] ?? ""}  `;
  const keys = (node.items as Pair[])
    .filter((pair) => String(pair.key) !== "steps")
    .map((pair) => `${indent}${text.slice(startOf(pair.key as Node), valueEnd((pair.value ?? pair.key) as Node))}`);
  const from = text.slice(lineStart, startOf(node as unknown as Node)).trimEnd().length + lineStart;
  return [
    {
      start: from,
      end: valueEnd(node as unknown as Node),
      text: `\n${[...keys, `${indent}steps:`, ...stepLines(step, `${indent}  `)].join("\n")}`,
    },
  ];
}

/** Takes a step away with the comments right above it. */
export function removeStep(text: string, table: string, at: number): TextEdit[] | undefined {
  const steps = stepsOf(text, table);
  if (!steps || steps.list.items.length === 1) return removeValue(text, ["tables", table, "steps", at]);
  if (at >= steps.list.items.length) return undefined;
  return [{ ...stretchOf(text, steps, at), text: "" }];
}

/** Moves a step to another place among those of its table, with the comments right above it. */
export function moveStep(text: string, table: string, from: number, to: number): TextEdit[] | undefined {
  const steps = stepsOf(text, table);
  if (!steps || from === to || [from, to].some((at) => at < 0 || at >= steps.list.items.length)) return undefined;
  const own = stretchOf(text, steps, from);
  const target = stretchOf(text, steps, to);
  const at = to > from ? target.end : target.start;
  const moved = text.slice(own.start, own.end);
  // The last line of a file may lack its line break, which then goes to the line that becomes the last.
  if (!moved.endsWith("\n"))
    return [
      { start: at, end: at, text: `${moved}\n` },
      { start: own.start - 1, end: own.end, text: "" },
    ];
  const closed = at === text.length && !text.endsWith("\n");
  return [
    { ...own, text: "" },
    { start: at, end: at, text: closed ? `\n${moved.slice(0, -1)}` : moved },
  ];
}

/** Switches a step off for a look, or on again. */
export function switchStep(text: string, table: string, at: number, off: boolean): TextEdit[] | undefined {
  const path = ["tables", table, "steps", at, "off"];
  return off ? setValue(text, path, true) : removeValue(text, path);
}

/** The text of a step alone, without its dash and indentation. */
export function stepSource(text: string, table: string, at: number): string | undefined {
  const steps = stepsOf(text, table);
  if (!steps) {
    const item = nodeAt(documentOf(text).contents as Node | null, ["tables", table, "steps", at]);
    return item ? text.slice(startOf(item), valueEnd(item)) : undefined;
  }
  const item = steps.list.items[at] as Node | undefined;
  if (!item) return undefined;
  const column = columnOf(text, startOf(item));
  const [first, ...rest] = text.slice(startOf(item), blockEnd(text, item)).split("\n");
  return [
    first,
    ...rest.map((line) => (line.slice(0, column).trim() === "" ? line.slice(column) : line.trimStart())),
  ].join("\n");
}

/** Writes another text in place of a step's own, as it stands, indented as the step was. */
export function replaceStep(text: string, table: string, at: number, source: string): TextEdit[] | undefined {
  const steps = stepsOf(text, table);
  const item = steps?.list.items[at] as Node | undefined;
  if (!steps || !item) return undefined;
  const indent = " ".repeat(columnOf(text, startOf(item)));
  const lines = source.trimEnd().split("\n");
  return [
    {
      start: startOf(item),
      end: blockEnd(text, item),
      text: lines.map((line, place) => (place === 0 || line === "" ? line : indent + line)).join("\n"),
    },
  ];
}

/** Writes a table under `tables:`, one key a line. */
export function addTable(text: string, table: string, keys: StepValue): TextEdit[] | undefined {
  const root = documentOf(text).contents as Node | null;
  const tables = nodeAt(root, ["tables"]);
  if (isMap(root) && root.flow) return setValue(text, ["tables", table], keys);
  const lines = (indent: string) => [
    `${indent}${writeScalar(table, false)}:`,
    ...Object.entries(keys).flatMap(([key, value]) =>
      key === "rows" && typeof value === "string"
        ? [`${indent}  rows: |`, ...value.split("\n").map((line) => `${indent}    ${line}`)]
        : keyLines(key, value, `${indent}  `),
    ),
  ];
  if (isMap(tables) && !tables.flow && tables.items.length) {
    const indent = " ".repeat(columnOf(text, startOf(tables.items[0]?.key as Node)));
    const end = blockEnd(text, tables as unknown as Node);
    return [{ start: end, end, text: `\n${lines(indent).join("\n")}` }];
  }
  if (tables !== undefined && tables !== null) return setValue(text, ["tables", table], keys);
  if (!isMap(root)) return undefined;
  const end = blockEnd(text, root as unknown as Node);
  return [{ start: end, end, text: `\n\ntables:\n${lines("  ").join("\n")}` }];
}
