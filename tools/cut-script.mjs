/**
 * Cuts the text of a bundle into the statements at its top, and finds out who needs each: what a dashboard may be
 * without is decided function by function, wherever in its file one stands.
 */
import { parse } from "acorn";
import { analyze } from "eslint-scope";

const LANGUAGE = { ecmaVersion: 2022, sourceType: "module" };
/** What names something and does nothing else as the script starts; all other statements are there for what they do. */
const NAMES = new Set(["FunctionDeclaration", "ClassDeclaration", "VariableDeclaration"]);

/** A function that names the file that an offset lies in, by the comments that esbuild writes above each file. */
function fileFinder(comments) {
  const files = comments
    .filter(({ type, value }) => type === "Line" && /^ (src|node_modules)\//.test(value))
    .map(({ start, value }) => ({ start, file: value.trim() }));
  return (offset) => files.findLast(({ start }) => start < offset)?.file;
}

/**
 * The statements at the top of a script without imports: `text`, the `file` that each comes from, whether it `acts`
 * (does something as the script starts, as adding a kind to a kit), the names it `gives` and the places of the
 * statements that it `needs`.
 */
export function cutScript(text) {
  const comments = [];
  const tree = parse(text, { ...LANGUAGE, ranges: true, onComment: comments });
  const fileAt = fileFinder(comments);
  const body = tree.body.filter(({ type }) => type !== "ExportNamedDeclaration");
  const statements = body.map(({ type, start, end }) => ({
    text: text.slice(start, end),
    file: fileAt(start),
    acts: !NAMES.has(type),
    gives: [],
    needs: new Set(),
  }));
  const placeOf = (offset) => body.findLastIndex(({ start }) => start <= offset);
  for (const { name, defs, references } of analyze(tree, LANGUAGE).globalScope.childScopes[0].variables) {
    const [defined] = new Set(defs.map((def) => placeOf(def.name.start)));
    if (defined === undefined) continue;
    statements[defined].gives.push(name);
    for (const { identifier } of references) {
      const place = placeOf(identifier.start);
      if (place !== defined && place >= 0) statements[place].needs.add(defined);
    }
  }
  return statements;
}

/** For each statement the names of the owners that reach it, given the statements that each owner begins with. */
export function ownersOf(statements, beginnings) {
  const owners = statements.map(() => new Set());
  for (const [owner, places] of beginnings) {
    const open = [...places];
    for (let place = open.pop(); place !== undefined; place = open.pop()) {
      if (owners[place].has(owner)) continue;
      owners[place].add(owner);
      open.push(...statements[place].needs);
    }
  }
  return owners;
}
