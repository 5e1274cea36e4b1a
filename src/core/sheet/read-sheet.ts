import type { z } from "zod";
import type { Finding, Span } from "../finding/finding";
import { writeFix } from "../finding/finding";
import { type NamedFormula, parseFormula, parseNamed } from "../formula/parse";
import type { FormulaProblem } from "../formula/tokens";
import { findingsOfIssues, keysAt } from "./issues";
import { type LinkSentence, parseLink, RESERVED_PIECES } from "./link-sentence";
import { chartVariants, variantProblem } from "./look-settings";
import { pathWithOddKey, withOddKey, withoutOddKey } from "./odd-key";
import { balanceOf, quoteLineFix } from "./quoting";
import { NAME } from "./scalars";
import { type EditionsSpec, topSchema } from "./schema";
import { type ChartSpec, chartSchema } from "./schema-charts";
import { type ControlSpec, controlSchema } from "./schema-controls";
import {
  type LinkStart,
  linkSchema,
  type NoteSpec,
  noteSchema,
  type PageSpec,
  pageSchema,
  type StyleSpec,
  styleSchema,
} from "./schema-pages";
import { STEP_KEYS, type TableSpec, tableSchema } from "./schema-tables";
import { leaveOutRest, splitsAmong } from "./split-texts";
import { type Path, readTree, type SourceTree, type Tree } from "./tree";

/** A link's sentence and its place in the list. */
export interface SheetLink {
  sentence: LinkSentence;
  /** The place of the sentence. */
  path: Path;
  /** What it selects at the start. */
  start?: LinkStart;
}

/** A sheet that was read: every piece that is sound, and findings for those that are not. */
export interface Sheet {
  source: SourceTree;
  report: string;
  about?: string;
  tables: Map<string, TableSpec>;
  controls: Map<string, ControlSpec>;
  charts: Map<string, ChartSpec>;
  /** Charts whose looks are settings, under each value of these; the first is the one in `charts`. */
  variants: Map<string, SheetVariants>;
  notes: Map<string, NoteSpec>;
  links: SheetLink[];
  pages: { spec: PageSpec; path: Path }[];
  /** One file for each value of a column. */
  editions?: EditionsSpec;
  /** Addresses of states by the name under which they are offered. */
  views: Record<string, string>;
  style: StyleSpec;
  /** Paths of other sheets whose tables, controls and style are taken in. */
  use: string[];
  /** Texts of the sheets and house styles that were taken in, by path. */
  usedTexts?: ReadonlyMap<string, string>;
  /** Names of pieces and tables that are written but broken. */
  broken: Set<string>;
  findings: Finding[];
  /** Those of its own findings that say that YAML has split a text. */
  splits: readonly Finding[];
}

/** A chart under each value of the settings that say how it looks. */
export interface SheetVariants {
  settings: string[];
  of: { values: string[]; spec: ChartSpec }[];
}

/** A finding at the value of a path. */
export function findingAt(
  source: SourceTree,
  path: Path,
  code: string,
  message: string,
  more: Partial<Finding> = {},
): Finding {
  const span = source.valueSpan(path);
  return { code, severity: "error", message, ...(span ? { span } : {}), ...more };
}

/** A finding for a problem inside a formula, at its very place, with its mended text as a fix. */
export function formulaFinding(source: SourceTree, path: Path, problem: FormulaProblem, offset = 0): Finding {
  const span = source.insideSpan(path, problem.start + offset, Math.max(problem.end, problem.start + 1) + offset);
  const whole = source.valueSpan(path);
  const exact =
    span &&
    whole &&
    (span.start !== whole.start || span.end !== whole.end || problem.fix?.end === whole.end - whole.start);
  const place = problem.fix && source.insideSpan(path, problem.fix.start + offset, problem.fix.end + offset);
  const fix =
    problem.fix && place && (exact || source.styleOf(path) === "plain")
      ? { title: problem.fix.title, edits: [{ ...place, text: problem.fix.text }] }
      : undefined;
  return {
    code: problem.code,
    severity: "error",
    message: problem.message,
    ...(span ? { span } : {}),
    ...(fix ? { fix } : {}),
  };
}

/** A comment right behind a text on its own line: YAML may have swallowed the text's end. */
function swallowed(source: SourceTree, span: Span): boolean {
  if (span.file !== undefined) return false;
  const line = source.text.slice(span.end).split("\n")[0] ?? "";
  return /^ +#/.test(line);
}

/** Reads a formula of the sheet; answers nothing and adds a finding where it cannot be read. */
export function readFormula(
  source: SourceTree,
  path: Path,
  text: string,
  findings: Finding[],
  options: { named?: boolean; offset?: number; piece?: string } = {},
): NamedFormula | undefined {
  const parsed = options.named ? parseNamed(text) : parseFormula(text);
  if (parsed.ok) return parsed.value;
  const span = source.valueSpan(path);
  const cut = span && source.styleOf(path) === "plain" && balanceOf(text) !== "balanced" && swallowed(source, span);
  const fix = cut ? quoteLineFix(source.text, span.start) : undefined;
  const finding = cut
    ? findingAt(
        source,
        path,
        "swallowed-text",
        "YAML takes the end of this formula for a comment; put it in quotes",
        fix ? { fix } : {},
      )
    : formulaFinding(source, path, parsed.problem, options.offset ?? 0);
  findings.push(options.piece ? { ...finding, piece: options.piece } : finding);
  return undefined;
}

type MapTree = { [key: string]: Tree };
const isMapTree = (tree: Tree | undefined): tree is MapTree =>
  typeof tree === "object" && tree !== null && !Array.isArray(tree);

/** Takes what a schema makes of a value of the sheet; what is wrong with it is said, and nothing comes of it. */
type Take = <T extends z.ZodType>(
  schema: T,
  path: Path,
  value: Tree | undefined,
  piece?: string,
) => z.output<T> | undefined;

function takerOf({ source, findings }: Sheet): Take {
  const hasOddKey = source.text.includes("__proto__");
  return (schema, path, value, piece) => {
    const result = schema.safeParse(value === undefined ? undefined : hasOddKey ? withoutOddKey(value) : value);
    if (result.success) return hasOddKey ? withOddKey(result.data) : result.data;
    const issues = hasOddKey
      ? result.error.issues.map((issue) => ({ ...issue, path: pathWithOddKey(issue.path) }))
      : result.error.issues;
    findings.push(...findingsOfIssues(issues, path, schema, source, piece));
    return undefined;
  };
}

/** A sheet of which nothing is read yet. */
function blankSheet(source: SourceTree): Sheet {
  return {
    source,
    report: "",
    tables: new Map(),
    controls: new Map(),
    charts: new Map(),
    variants: new Map(),
    notes: new Map(),
    links: [],
    pages: [],
    views: {},
    style: {},
    use: [],
    broken: new Set(),
    findings: [...source.findings],
    splits: [],
  };
}

/**
 * Reads the text of a sheet. Never throws; broken pieces are left out and named in findings.
 * A `part` is a sheet that others use, which needs no title.
 */
export function readSheet(text: string, as: "report" | "part" = "report"): Sheet {
  const source = readTree(text);
  const sheet = blankSheet(source);
  const { findings } = sheet;
  const { tree } = source;
  if (findings.some((finding) => finding.code === "yaml")) return sheet;
  if (!isMapTree(tree)) {
    findings.push({
      code: "not-a-sheet",
      severity: "error",
      message: "a sheet is a map that begins with still: 1",
      span: { start: 0, end: Math.min(1, text.length) },
    });
    return sheet;
  }
  const take = takerOf(sheet);
  readHead(sheet, tree, as, take);
  readNamed(sheet, tree, take);
  readList(sheet, tree.links, "links", (value, path) => {
    const spec = take(linkSchema, path, value);
    if (spec !== undefined) readLink(sheet, spec, path);
  });
  readList(sheet, tree.pages, "pages", (value, path) => {
    const spec = take(pageSchema, path, value);
    if (spec) sheet.pages.push({ spec, path });
  });
  if (tree.style !== undefined) sheet.style = take(styleSchema, ["style"], tree.style) ?? {};
  sheet.splits = splitsAmong(findings);
  leaveOutRest(findings, sheet.splits);
  return sheet;
}

/** Keys of the sheet that hold no pieces. The top level is checked key by key, so that one broken chart is alone. */
function readHead(sheet: Sheet, tree: MapTree, as: "report" | "part", take: Take) {
  const known = keysAt(topSchema, []);
  const shell: MapTree = Object.create(null);
  for (const [key, value] of Object.entries(tree))
    if (!known.includes(key) || ["still", "report", "about", "use", "views", "editions"].includes(key))
      shell[key] = value;
  const top = take(as === "part" ? topSchema.partial({ report: true }) : topSchema, [], shell);
  sheet.report = top?.report ?? (typeof tree.report === "string" ? tree.report : "Untitled");
  if (top?.about !== undefined) sheet.about = top.about;
  sheet.use = top?.use ?? [];
  sheet.views = top?.views ?? {};
  if (top?.editions) sheet.editions = top.editions;
}

/** Everything that has a name: tables, controls, charts and notes; a name that stands twice is said. */
function readNamed(sheet: Sheet, tree: MapTree, take: Take) {
  const doubled = (group: "charts" | "notes", name: string, message: string) => {
    sheet.findings.push({ ...findingAt(sheet.source, [group, name], "doubled-name", message), piece: name });
    sheet.broken.add(name);
  };
  const each = <T extends z.ZodType>(key: NamedGroup, schema: T, keep: (name: string, spec: z.output<T>) => void) =>
    readGroup(sheet, tree, take, key, schema, keep);
  each("tables", tableSchema, (name, spec) => {
    if (stepsAreSound(spec, name, sheet)) sheet.tables.set(name, spec);
    else sheet.broken.add(`tables.${name}`);
  });
  each("controls", controlSchema, (name, spec) => sheet.controls.set(name, spec));
  each("charts", chartSchema, (name, spec) => {
    if (!sheet.controls.has(name)) sheet.charts.set(name, spec);
    else doubled("charts", name, `"${name}" is a control too; charts and controls share their names`);
  });
  each("notes", noteSchema, (name, spec) => {
    const taken = sheet.charts.has(name) ? "chart" : sheet.controls.has(name) ? "control" : undefined;
    if (taken === undefined) sheet.notes.set(name, spec);
    else doubled("notes", name, `"${name}" is a ${taken} too; pieces share their names`);
  });
}

type NamedGroup = "tables" | "controls" | "charts" | "notes";

/** The specs of a group, one by one: a broken one leaves the others standing. */
function readGroup<T extends z.ZodType>(
  sheet: Sheet,
  tree: MapTree,
  take: Take,
  key: NamedGroup,
  schema: T,
  keep: (name: string, spec: z.output<T>) => void,
) {
  const { source, findings, broken } = sheet;
  const group = tree[key];
  if (group === undefined || group === null) return;
  if (!isMapTree(group)) {
    findings.push(findingAt(source, [key], "wrong-shape", `a map of names is expected under "${key}"`));
    return;
  }
  for (const [name, value] of Object.entries(group)) {
    const piece = key === "tables" ? `tables.${name}` : name;
    const path = [key, name];
    const misnamed = nameProblem(name, key);
    if (misnamed) findings.push(badName(source, path, name, misnamed, piece));
    const variants = key === "charts" ? chartVariants(value, tree.controls) : undefined;
    const wrong = variants && ("problem" in variants ? variants : variantProblem(variants));
    if (wrong || (variants && "problem" in variants)) {
      if (wrong) findings.push({ ...findingAt(source, [...path, ...wrong.path], "wrong-value", wrong.problem), piece });
      broken.add(piece);
      continue;
    }
    const [spec, ...others] = (variants?.of ?? [{ tree: value }]).map((one) => take(schema, path, one.tree, piece));
    if (variants && spec !== undefined && others.every((other) => other !== undefined)) {
      const specs = [spec, ...others] as ChartSpec[];
      const of = variants.of.map(({ values }, at) => ({ values, spec: specs[at] as ChartSpec }));
      sheet.variants.set(name, { settings: variants.settings, of });
    }
    if (spec !== undefined && !misnamed) keep(name, spec);
    else broken.add(piece);
  }
}

/** A name that cannot be one, with one that could where that is near. */
function badName(source: SourceTree, path: Path, name: string, message: string, piece: string): Finding {
  const span = source.keySpan(path);
  const better = name
    .toLowerCase()
    .replace(/[^a-z0-9_]+/g, "_")
    .replace(/^[^a-z]+/, "");
  return {
    code: "bad-name",
    severity: "error",
    message,
    piece,
    ...(span ? { span } : {}),
    ...writeFix(span, NAME.test(better) && !RESERVED_PIECES.has(better) ? better : undefined),
  };
}

function nameProblem(name: string, key: string): string | undefined {
  if (!NAME.test(name))
    return `"${name}" cannot be a name: names are small letters, digits and _, beginning with a letter`;
  if (key !== "tables" && RESERVED_PIECES.has(name)) return `"${name}" is a word of links and cannot name a piece`;
  return undefined;
}

/** Every step says exactly one thing. */
function stepsAreSound(spec: TableSpec, table: string, sheet: Sheet): boolean {
  let sound = true;
  spec.steps?.forEach((step, place) => {
    const keys = STEP_KEYS.filter((key) => step[key] !== undefined);
    if (keys.length === 1) return;
    sound = false;
    const path = ["tables", table, "steps", place];
    const message =
      keys.length === 0
        ? `a step needs one of ${STEP_KEYS.join(", ")}`
        : `one step says one thing, but here stand ${keys.join(" and ")}; make them steps of their own`;
    sheet.findings.push({ ...findingAt(sheet.source, path, "step-keys", message), piece: `tables.${table}` });
  });
  const sources = (["read", "rows", "from", "make"] as const).filter((key) => spec[key] !== undefined);
  if (sources.length !== 1) {
    sound = false;
    const span = sheet.source.keySpan(["tables", table]);
    const message =
      sources.length === 0
        ? "a table needs a source: read, rows, from or make"
        : `a table has one source, but here stand ${sources.join(" and ")}`;
    sheet.findings.push({
      code: "table-source",
      severity: "error",
      message,
      piece: `tables.${table}`,
      ...(span ? { span } : {}),
    });
  }
  return sound;
}

function readList(sheet: Sheet, list: Tree | undefined, key: string, item: (value: Tree, path: Path) => void) {
  if (list === undefined || list === null) return;
  if (!Array.isArray(list)) {
    const [first] = key === "pages" && isMapTree(list) ? Object.keys(list) : [];
    const hint = first === undefined ? "" : `, whose items begin with - page: ${first}`;
    sheet.findings.push(findingAt(sheet.source, [key], "wrong-shape", `a list is expected under "${key}"${hint}`));
    return;
  }
  list.forEach((value, place) => {
    item(value, [key, place]);
  });
}

function readLink(sheet: Sheet, spec: z.output<typeof linkSchema>, at: Path) {
  const text = typeof spec === "string" ? spec : spec.link;
  const path = typeof spec === "string" ? at : [...at, "link"];
  const { sentence, problem } = parseLink(text);
  const start = typeof spec === "string" || spec.start === undefined ? {} : { start: spec.start };
  if (sentence) sheet.links.push({ sentence, path, ...start });
  if (!problem) return;
  const span = sheet.source.insideSpan(path, problem.start, Math.max(problem.end, problem.start + 1));
  sheet.findings.push({
    code: problem.code,
    severity: "error",
    message: problem.message,
    ...(span ? { span } : {}),
    ...writeFix(span, problem.replacement),
  });
}
