import type { Finding, Span } from "../finding/finding";
import { placeOf } from "../finding/place";
import { findingsOfIssues } from "./issues";
import { findingAt, readSheet, type Sheet } from "./read-sheet";
import { type StyleSpec, styleSchema } from "./schema-pages";
import { type Path, readTree, type SourceTree } from "./tree";

/** Reads bytes of a file that a sheet names. */
type ReadFile = (path: string) => Uint8Array | undefined;

/** A file that takes part in a sheet without being a table: another sheet or a house style. */
interface UsedFile {
  path: string;
  source: SourceTree;
  /** It is a house style: the keys of `style` stand at its top. */
  isStyle?: boolean;
}

/** `x/y.yaml` → `x/`; paths in a used sheet are taken from its own folder. */
const folderOf = (path: string): string => path.slice(0, path.lastIndexOf("/") + 1);

/** A path seen from another folder, without `.` and `..`. */
function joined(folder: string, path: string): string {
  const parts: string[] = [];
  for (const part of `${folder}${path}`.split("/")) {
    if (part === ".." && parts.length && parts.at(-1) !== "..") parts.pop();
    else if (part !== ".") parts.push(part);
  }
  return parts.join("/");
}

/**
 * Reads a sheet with all that it uses: tables, controls and style of other sheets (`use`), and a
 * house style (`style: {use}`). What stands in other files keeps its place there: spans carry the
 * file, and {@link tellPlaces} turns them into words at the end.
 */
export function readWholeSheet(text: string, readFile: ReadFile): Sheet {
  const sheet = readSheet(text);
  const own = sheet.source;
  const used = new Map<string, UsedFile>();
  const origin = new Map<string, UsedFile>();
  let style: StyleSpec = {};
  const texts = new Map<string, string>();
  const textOf = (path: string, at: Path): string | undefined => {
    const bytes = readFile(path);
    if (!bytes) sheet.findings.push(findingAt(own, at, "no-such-file", `there is no file "${path}" beside the sheet`));
    else texts.set(path, new TextDecoder().decode(bytes));
    return texts.get(path);
  };
  const take = (path: string, at: Path, above: readonly string[]) => {
    if (above.includes(path)) {
      sheet.findings.push(findingAt(own, at, "cycle", `${[...above, path].join(" uses ")}`));
      return;
    }
    if (used.has(path)) return;
    const inner = textOf(path, at);
    if (inner === undefined) return;
    const other = readSheet(inner, "part");
    const file = { path, source: other.source };
    used.set(path, file);
    sheet.findings.push(...other.findings.map((finding) => toldFrom(finding, path, inner, own.valueSpan(at))));
    for (const name of other.broken) sheet.broken.add(name);
    takeNames(sheet, other, file, origin, at);
    style = { ...style, ...withHouse({ sheet, origin, textOf, file }, other.style, at) };
    for (const one of other.use) take(joined(folderOf(path), one), at, [...above, path]);
  };
  sheet.use.forEach((path, place) => {
    take(joined("", path), ["use", place], []);
  });
  sheet.style = { ...style, ...withHouse({ sheet, origin, textOf }, sheet.style, ["style", "use"]) };
  sheet.usedTexts = texts;
  if (origin.size) sheet.source = withOrigins(own, origin);
  return sheet;
}

/** Takes over the tables and controls of a used sheet; what has the name of something already there is told. */
function takeNames(sheet: Sheet, other: Sheet, file: UsedFile, origin: Map<string, UsedFile>, at: Path) {
  const folder = folderOf(file.path);
  const isFree = (key: "tables" | "controls", name: string) => {
    const isTaken = sheet[key].has(name) || (key === "controls" && (sheet.charts.has(name) || sheet.notes.has(name)));
    if (!isTaken) return true;
    const message = `${file.path} has a ${key === "tables" ? "table" : "control"} "${name}", and so has this report`;
    sheet.findings.push(findingAt(sheet.source, at, "doubled-name", message));
    return false;
  };
  for (const [name, spec] of other.tables) {
    if (!isFree("tables", name)) continue;
    sheet.tables.set(name, spec.read === undefined ? spec : { ...spec, read: joined(folder, spec.read) });
    origin.set(`tables ${name}`, file);
  }
  for (const [name, spec] of other.controls) {
    if (!isFree("controls", name)) continue;
    sheet.controls.set(name, spec);
    origin.set(`controls ${name}`, file);
  }
}

/** Where a style is taken over: by which sheet, and from which used one; nothing for its own. */
interface Taking {
  sheet: Sheet;
  origin: Map<string, UsedFile>;
  textOf: (path: string, at: Path) => string | undefined;
  file?: UsedFile;
}

/** A style over the house style that it uses; files are named from the folder of the text that names them. */
function withHouse({ sheet, origin, textOf, file }: Taking, style: StyleSpec, at: Path): StyleSpec {
  const folder = file ? folderOf(file.path) : "";
  const placed = style.logo === undefined ? style : { ...style, logo: joined(folder, style.logo) };
  const { use, ...own } = placed;
  for (const key of Object.keys(own))
    if (file) origin.set(`style ${key}`, file);
    else origin.delete(`style ${key}`);
  if (use === undefined) return own;
  const path = joined(folder, use);
  const text = textOf(path, at);
  if (text === undefined) return own;
  const source = readTree(text);
  const result = styleSchema.omit({ use: true }).safeParse(source.tree ?? {});
  const findings = [...source.findings];
  if (!result.success)
    findings.push(...findingsOfIssues(result.error.issues, [], styleSchema.omit({ use: true }), source));
  sheet.findings.push(...findings.map((finding) => toldFrom(finding, path, text, sheet.source.valueSpan(at))));
  if (!result.success) return own;
  for (const key of Object.keys(result.data))
    if (!Object.hasOwn(own, key)) origin.set(`style ${key}`, { path, source, isStyle: true });
  const house = result.data.logo === undefined ? {} : { logo: joined(folderOf(path), result.data.logo) };
  return { ...result.data, ...house, ...own };
}

/** A finding in another file: told with its line and column there, and shown where that file is named. */
function toldFrom(finding: Finding, path: string, text: string, at: Span | undefined): Finding {
  const { span, fix: _, ...rest } = finding;
  const { line, column } = placeOf(text, span?.start ?? 0);
  return { ...rest, message: `${path}:${line}:${column}: ${finding.message}`, ...(at ? { span: at } : {}) };
}

/** The places of a sheet in which some tables, controls and keys of its style stand in other files. */
function withOrigins(own: SourceTree, origin: ReadonlyMap<string, UsedFile>): SourceTree {
  const fileOf = (path: Path) => origin.get(`${path[0]} ${path[1]}`);
  const placed = (path: Path, find: (source: SourceTree, path: Path) => Span | undefined) => {
    const file = fileOf(path);
    const span = find(file?.source ?? own, file?.isStyle ? path.slice(1) : path);
    return span && file ? { ...span, file: file.path } : span;
  };
  return {
    ...own,
    valueSpan: (path) => placed(path, (source, inside) => source.valueSpan(inside)),
    keySpan: (path) => placed(path, (source, inside) => source.keySpan(inside)),
    insideSpan: (path, start, end) => placed(path, (source, inside) => source.insideSpan(inside, start, end)),
    styleOf: (path) => (fileOf(path)?.source ?? own).styleOf(path),
  };
}

/** Turns findings whose place is in a used sheet into words at the place where that sheet is named. */
export function tellPlaces(sheet: Sheet) {
  if (!sheet.usedTexts?.size) return;
  sheet.findings.forEach((finding, at) => {
    const path = finding.span?.file;
    const text = path === undefined ? undefined : sheet.usedTexts?.get(path);
    if (path === undefined || text === undefined) return;
    const place = sheet.use.findIndex((one) => joined("", one) === path);
    const named = place < 0 ? sheet.source.valueSpan(["style", "use"]) : sheet.source.valueSpan(["use", place]);
    const span = named ?? sheet.source.valueSpan(["use"]);
    sheet.findings[at] = toldFrom(finding, path, text, span);
  });
}
