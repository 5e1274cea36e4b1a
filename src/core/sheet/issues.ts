import type { z } from "zod";
import { type Finding, type Span, writeFix } from "../finding/finding";
import { listed, nearest } from "../finding/nearest";
import { ownOf } from "../finding/own";
import { namedColor } from "../formula/not-columns";
import { quoteFix, quoteLineFix } from "./quoting";
import { shorthandOf } from "./shorthands";
import { tradeChoice, tradeKey, tradeWord } from "./trade-words";
import type { Path, SourceTree, Tree } from "./tree";

type Schema = z.core.$ZodType;
type Issue = z.core.$ZodIssue;

/** Schemas without the wrappers that say optional, nullable or transformed. */
function unwrap(schema: Schema): Schema {
  const def = schema._zod.def as { type: string; innerType?: Schema; in?: Schema };
  if ((def.type === "optional" || def.type === "nullable") && def.innerType) return unwrap(def.innerType);
  if (def.type === "pipe" && def.in) return unwrap(def.in);
  return schema;
}

/** The schemas that may stand at a path; a union gives several. */
export function schemasAt(schema: Schema, path: Path): Schema[] {
  const bare = unwrap(schema);
  const def = bare._zod.def as {
    type: string;
    options?: Schema[];
    shape?: Record<string, Schema>;
    valueType?: Schema;
    element?: Schema;
  };
  if (def.type === "union") return (def.options ?? []).flatMap((option) => schemasAt(option, path));
  if (path.length === 0) return [bare];
  const [head, ...rest] = path as [string | number, ...(string | number)[]];
  const next =
    def.type === "object"
      ? ownOf(def.shape ?? {}, String(head))
      : def.type === "record"
        ? def.valueType
        : def.type === "array"
          ? def.element
          : undefined;
  return next ? schemasAt(next, rest) : [];
}

/** The keys that maps at a path may have. */
export function keysAt(schema: Schema, path: Path): string[] {
  return schemasAt(schema, path).flatMap((found) => {
    const def = found._zod.def as { type: string; shape?: Record<string, Schema>; keyType?: Schema };
    if (def.type === "object") return Object.keys(def.shape ?? {});
    // A map whose keys are one of a few words.
    const words = def.keyType?._zod.def as { type: string; entries?: Record<string, string> } | undefined;
    return def.type === "record" && words?.type === "enum" ? Object.keys(words.entries ?? {}) : [];
  });
}

function at(tree: Tree | undefined, path: Path): Tree | undefined {
  let found = tree;
  for (const part of path) {
    if (found === null || found === undefined || typeof found === "string") return undefined;
    found = Array.isArray(found) ? found[Number(part)] : found[String(part)];
  }
  return found;
}

function shapeOf(tree: Tree | undefined): "text" | "list" | "map" | "nothing" {
  if (tree === null || tree === undefined) return "nothing";
  if (typeof tree === "string") return "text";
  return Array.isArray(tree) ? "list" : "map";
}

const EXPECTED: Record<string, string> = { string: "a text", object: "a map", record: "a map", array: "a list" };

/** Chooses, of a union's branches, the one whose shape the author has written. */
function chosenBranch(issue: Issue & { code: "invalid_union" }): Issue[] {
  const branches = issue.errors.filter(
    (errors) => !errors.some((error) => error.path.length === 0 && error.code === "invalid_type"),
  );
  const usable = branches.length ? branches : issue.errors;
  return (
    [...usable].sort(
      (a, b) =>
        b.reduce((most, error) => Math.max(most, error.path.length), 0) -
        a.reduce((most, error) => Math.max(most, error.path.length), 0),
    )[0] ?? []
  );
}

/** The words that a schema takes, if it takes nothing else. */
const wordsOf = ({ _zod: { def } }: Schema): string[] =>
  def.type === "enum" ? Object.keys((def as unknown as { entries: object }).entries) : [];

/** The words that a schema takes a list of. */
function listedWordsOf({ _zod: { def } }: Schema): string[] {
  const { element } = def as { element?: Schema };
  return def.type === "array" && element ? wordsOf(unwrap(element)) : [];
}

/** Turns what the schema says into findings in plain words, at their place, with the nearest right name as a fix. */
export function findingsOfIssues(
  issues: readonly Issue[],
  base: Path,
  schema: Schema,
  source: SourceTree,
  piece?: string,
): Finding[] {
  const findings: Finding[] = [];
  const add = (finding: Finding) => findings.push(piece ? { ...finding, piece } : finding);
  for (const issue of issues) {
    const local = issue.path.map((part) => (typeof part === "symbol" ? String(part) : part));
    const path = [...base, ...local];
    const found = at(source.tree, path);
    if (issue.code === "invalid_union") {
      const inner = chosenBranch(issue);
      const shapes = schemasAt(schema, local);
      const options = shapes.flatMap(wordsOf);
      if (inner.length === 0 || (options.length && shapeOf(found) === "text"))
        add(wrongChoice(String(found), options, path, source, shapes.flatMap(listedWordsOf)));
      else {
        const moved = inner.map((error) => ({ ...error, path: [...issue.path, ...error.path] }) as Issue);
        for (const finding of findingsOfIssues(moved, base, schema, source, piece)) findings.push(finding);
      }
      continue;
    }
    if (issue.code === "unrecognized_keys") {
      const known = keysAt(schema, local);
      for (const key of issue.keys) add(unknownKey(key, known, [...path, key], source));
      continue;
    }
    if (issue.code === "invalid_value") {
      if (shapeOf(found) === "nothing") add(nothing(path, source));
      else
        add(
          (typeof found === "string" ? undefined : writtenShort(found as Tree, path, source)) ??
            wrongChoice(typeof found === "string" ? found : "this", issue.values.map(String), path, source),
        );
      continue;
    }
    if (issue.code === "invalid_type") {
      add(wrongShape(issue.expected, found, path, schemasAt(schema, local), source));
      continue;
    }
    const span = source.valueSpan(path);
    const message = issue.code === "invalid_key" ? "this key does not belong here" : issue.message;
    const bare = typeof found === "string" ? plainValue(found, issue.message) : undefined;
    add({
      code: "wrong-value",
      severity: "error",
      message: `${message}${typeof found === "string" ? `, not "${found.slice(0, 60)}"` : ""}${aboutRamp(path)}`,
      ...(span ? { span } : {}),
      ...writeFix(span, bare),
    });
  }
  return findings;
}

/** A number without its unit, or a colour by its name, as it is written here. */
function plainValue(found: string, message: string): string | undefined {
  const number = /^(\d+(?:\.\d+)?) ?px$/.exec(found)?.[1];
  if (number !== undefined || !/colour/.test(message)) return number;
  const color = namedColor(found);
  return color && `"${color}"`;
}

/** Who writes what a ramp is made of among the colours of values is told where it stands. */
const aboutRamp = (path: Path) =>
  path.at(-2) === "colors" && /^(ramp|palette|scheme|scale|middle|range)$/.test(String(path.at(-1)))
    ? "; a ramp or a palette stands alone, colors: tide, and its middle beside it, middle: 0"
    : "";

/** How what a key would say is said where it stands, if that is no other key. */
function saidOtherwise(key: string, known: readonly string[], path: Path): string | undefined {
  if (/^(?:min|max)(?:imum)?$/.test(key) && known.includes("range")) return "both ends stand together: range: [0, 10]";
  const [part, , columns, column] = path;
  if (part !== "tables" || columns !== "columns" || !/^(?:as|name|rename(?:_to)?|new_name)$/.test(key))
    return undefined;
  const name = /^[\p{L}\p{N}_ ]+$/u.test(String(column)) ? column : JSON.stringify(column);
  return `label: says what readers see; a step gives a column another name: steps: [{rename: {${name}: NAME}}]`;
}

function unknownKey(key: string, known: string[], path: Path, source: SourceTree): Finding {
  const span = source.keySpan(path);
  const otherwise = saidOtherwise(key, known, path);
  if (otherwise !== undefined)
    return {
      code: "unknown-key",
      severity: "error",
      message: `there is no key "${key}" here; ${otherwise}`,
      ...(span ? { span } : {}),
    };
  const near = tradeKey(key, known) ?? nearest(key, known);
  const others = known.length ? `; known here: ${listed(known, 30)}` : "";
  const hint = near ? `; did you mean "${near}"?` : others;
  return {
    code: "unknown-key",
    severity: "error",
    message: `there is no key "${key}" here${hint}`,
    ...(span ? { span } : {}),
    ...writeFix(span, near),
  };
}

/** A word that is none of those that are taken, or of those that are taken as a list alone. */
function wrongChoice(
  found: string,
  options: string[],
  path: Path,
  source: SourceTree,
  inLists: string[] = [],
): Finding {
  const span = source.valueSpan(path);
  const item = inLists.includes(found) ? found : nearest(found, inLists);
  const trade = path.at(-1) === "draw" ? tradeWord(found) : tradeChoice(String(path.at(-1)), found, options);
  const near = trade?.meant ?? nearest(found, options) ?? (item && `[${item}]`);
  const short = near === undefined ? writtenShort(found, path, source) : undefined;
  if (short) return short;
  const lists = inLists.length ? `, nor a list [${inLists.join(", ")}] or part of it` : "";
  return {
    code: "wrong-value",
    severity: "error",
    message:
      `"${found.slice(0, 60)}" is not one of ` +
      `${listed(options, 20)}${lists}${trade?.says ? `; ${trade.says}` : ""}`,
    ...(span ? { span } : {}),
    ...writeFix(span, near),
  };
}

function nothing(path: Path, source: SourceTree): Finding {
  if (path.length === 1 && path[0] === "still" && source.keySpan(path) === undefined) {
    // A sheet that is written as JSON begins with a bracket.
    const bracket = /^\s*\{/.exec(source.text)?.[0].length;
    const at = bracket ?? 0;
    const edits = [{ start: at, end: at, text: bracket === undefined ? "still: 1\n" : '"still": 1, ' }];
    const message = "a sheet begins with the version of its language: still: 1";
    return {
      code: "key-missing",
      severity: "error",
      message,
      span: { start: 0, end: 1 },
      fix: { title: "write still: 1", edits },
    };
  }
  const span = source.keySpan(path) ?? source.valueSpan(path.slice(0, -1));
  const key = path.at(-1);
  // `keep: #x` is a key with an empty value and a comment.
  const swallowed = span && /^[^\n]*?: +#/.test(source.text.slice(span.start).split("\n")[0] ?? "");
  const fix = swallowed && span ? quoteLineFix(source.text, span.start) : undefined;
  return {
    code: swallowed ? "swallowed-text" : "empty-value",
    severity: "error",
    message: swallowed ? `YAML takes what follows "${key}" for a comment, so nothing is left` : `"${key}" has no value`,
    ...(span ? { span } : {}),
    ...(fix ? { fix } : {}),
  };
}

/** Keys of groups whose names are written as those of a map: a name stands behind its formula. */
function namedKeys(found: Tree, span: Span): Finding | undefined {
  if (found === null || typeof found !== "object" || Array.isArray(found)) return undefined;
  const entries = Object.entries(found);
  if (entries.length === 0 || entries.some(([, value]) => typeof value !== "string")) return undefined;
  const texts = entries.map(([name, formula]) => `${formula} as ${name}`);
  const list = `[${texts.map((text) => JSON.stringify(text)).join(", ")}]`;
  return {
    code: "wrong-shape",
    severity: "error",
    message: `a formula or a list of them is expected under "by"; a name of your own stands behind one: ${texts[0]}`,
    span,
    ...writeFix(span, list),
  };
}

/** What is written short under a key of a chart, with what is meant. */
function writtenShort(found: Tree, path: Path, source: SourceTree): Finding | undefined {
  const span = source.valueSpan(path);
  const short = span && shorthandOf(path, found, at(source.tree, path.slice(0, -1)));
  if (!short || !span) return undefined;
  const { says, text } = short;
  return {
    code: "wrong-shape",
    severity: "error",
    message: says,
    span,
    ...writeFix(span, text),
  };
}

function wrongShape(
  expected: string,
  found: Tree | undefined,
  path: Path,
  schemas: Schema[],
  source: SourceTree,
): Finding {
  const key = path.at(-1);
  if (found === undefined) {
    const span = source.keySpan(path.slice(0, -1)) ?? source.valueSpan(path.slice(0, -1));
    return {
      code: "key-missing",
      severity: "error",
      message: `the key "${key}" is needed here`,
      ...(span ? { span } : {}),
    };
  }
  if (found === null) return nothing(path, source);
  const span = source.valueSpan(path);
  const wanted = EXPECTED[expected] ?? `a ${expected}`;
  const shape = shapeOf(found);
  const named = path.includes("by") && span ? namedKeys(found, span) : undefined;
  if (named) return named;
  const short = expected === "string" && shape === "text" ? undefined : writtenShort(found, path, source);
  if (short) return short;
  const isText = schemas.some((schema) => schema._zod.def.type === "string");
  if (isText && expected === "string" && source.styleOf(path) === "flow" && span) {
    return {
      code: "cut-text",
      severity: "error",
      message: `a text is expected here; one that begins with ${source.text[span.start]} is put in quotes`,
      span,
      fix: quoteLineFix(source.text, span.start) ?? quoteFix(source.text, span.start, span.end),
    };
  }
  const asList = span && expected === "array" && shape === "text" ? listFix(source.text, span) : undefined;
  return {
    code: "wrong-shape",
    severity: "error",
    message: `${wanted} is expected ${typeof key === "string" ? `under "${key}"` : "here"}, not a ${shape}`,
    ...(span ? { span } : {}),
    ...(asList ? { fix: asList } : {}),
  };
}

/** One text on a line where a list is expected, written as a list of it. */
function listFix(text: string, span: Span): Finding["fix"] {
  const item = text.slice(span.start, span.end).trimEnd();
  // Of several lines, or of a text that says more in a list than beside its key, nobody can tell what was meant.
  if (item.includes("\n") || (/[,[\]{}#]/.test(item) && !/^["']/.test(item))) return undefined;
  return { title: `write [${item}]`, edits: [{ ...span, text: `[${item}]` }] };
}
