import { Glob } from "../finding/glob";
import { readTree } from "../sheet/tree";
import { readWholeSheet } from "../sheet/used-sheets";
import { pathProblem } from "./directory";

/**
 * Files that come in one by one, picked or dropped, know their names and not their folders. A sheet says where they
 * belong: it names them, and so do the sheets and styles that it uses.
 */

/** True for the name of a sheet, `NAME.still.yaml` or `NAME.still.json`. */
export const isSheetName = (name: string): boolean => /\.still\.(?:ya?ml|json)$/i.test(name);

const baseOf = (path: string) => path.slice(path.lastIndexOf("/") + 1);

/** Paths and patterns that a sheet names, from its own folder; `read` finds texts of sheets and styles by path. */
function namedPaths(text: string, read: (path: string) => Uint8Array | undefined): string[] {
  const named = new Set<string>();
  const sheet = readWholeSheet(text, (path) => {
    named.add(path);
    return read(path);
  });
  for (const table of sheet.tables.values()) if (table.read !== undefined) named.add(table.read);
  if (sheet.style.logo !== undefined) named.add(sheet.style.logo);
  return [...named].filter((path) => pathProblem(path) === undefined);
}

/** The path under which a sheet names a file of this name; nothing where it does not, or in several folders. */
function placeIn(named: readonly string[], name: string): string | undefined {
  if (named.includes(name)) return name;
  const fitting = new Set(
    named
      .filter((path) => new Glob(baseOf(path)).fits(name))
      .map((path) => `${path.slice(0, path.lastIndexOf("/") + 1)}${name}`),
  );
  return fitting.size === 1 ? [...fitting][0] : undefined;
}

/** Where a file of this name belongs beside a sheet that names it and does not have it yet. */
export function missingPlace(
  text: string,
  files: Iterable<string>,
  read: (path: string) => Uint8Array | undefined,
  name: string,
): string | undefined {
  const there = new Set(files);
  const place = placeIn(namedPaths(text, read), name);
  return place === undefined || there.has(place) ? undefined : place;
}

/** Files by the paths under which a sheet names them; what it does not name stands beside it. */
export function laidOut(text: string, loose: ReadonlyMap<string, Uint8Array>): Map<string, Uint8Array> {
  const byBase = (path: string) => loose.get(path) ?? loose.get(baseOf(path));
  const named = namedPaths(text, byBase);
  return new Map([...loose].map(([name, bytes]) => [placeIn(named, name) ?? name, bytes]));
}

const textOf = (bytes: Uint8Array) => new TextDecoder().decode(bytes);

/** True for the text of a whole report; what has no title only lends its tables and style to others. */
function isWhole(text: string): boolean {
  const { tree } = readTree(text);
  // A sheet that cannot be read is opened to be mended.
  return typeof tree === "object" && tree !== null ? Object.hasOwn(tree, "report") : /^\s*"?report"?\s*:/m.test(text);
}

/** Names of those among loose files that are reports of their own, and that none of the others takes in. */
export function reportsAmong(loose: ReadonlyMap<string, Uint8Array>): string[] {
  const sheets = [...loose].flatMap(([name, bytes]) => (isSheetName(name) ? [[name, textOf(bytes)] as const] : []));
  const whole = sheets.filter(([, text]) => isWhole(text)).map(([name]) => name);
  const used = new Set(
    sheets.flatMap(([name, text]) =>
      namedPaths(text, () => undefined)
        .map(baseOf)
        .filter((other) => other !== name),
    ),
  );
  return whole.filter((name) => !used.has(name));
}
