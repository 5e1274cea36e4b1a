import { LEGEND_PLACES } from "../chart/plan";
import { AGGREGATES } from "../formula/aggregate-names";
import { SCALES } from "../scale/scale-kinds";
import { SHORT_STEPS } from "./shorthand-steps";
import type { Path, Tree } from "./tree";

/** What an author has written in short, as it is written here: the text, and what is said of it. */
export interface Shorthand {
  says: string;
  text?: string;
}

const isMeasure = (text: string) => [...text.matchAll(/(\w+)\(/g)].some(([, name]) => AGGREGATES.has(name as string));

/** The axis of a chart that shows categories, and the measure on the other one. */
function axesOf(chart: Tree | undefined): { axis: string; measure?: string } {
  const on = (name: string) => {
    const found = chart !== null && typeof chart === "object" && !Array.isArray(chart) ? chart[name] : undefined;
    return typeof found === "string" ? found : undefined;
  };
  const axis = ["x", "y"].find((name) => on(name) !== undefined && !isMeasure(on(name) as string)) ?? "x";
  const measure = on(axis === "x" ? "y" : "x");
  return { axis, ...(measure !== undefined && isMeasure(measure) ? { measure } : {}) };
}

const isTable = (chart: Tree | undefined) =>
  chart !== null && typeof chart === "object" && !Array.isArray(chart) && chart.draw === "table";

function sortOf(found: Tree, chart: Tree | undefined): Shorthand | undefined {
  const items = isTable(chart) && found !== null && typeof found === "object" ? Object.values(found) : [found].flat();
  const text = items.every((one) => typeof one === "string") ? items.join(", ") : undefined;
  if (text === undefined) return undefined;
  if (isTable(chart))
    return { says: `a list stands in the order of its table, which a step of that table makes: sort: [${text}]` };
  if (typeof found !== "string") return undefined;
  const { axis, measure } = axesOf(chart);
  const word = /^(asc|desc)(?:ending)?$/i.exec(text)?.[1]?.toLowerCase();
  const order = word === undefined ? text : `${word === "desc" ? "-" : ""}${measure ?? "count()"}`;
  return { says: `"sort" says which axis is put in order: sort: {${axis}: ${order}}`, text: `{${axis}: ${order}}` };
}

function topOf(found: Tree, chart: Tree | undefined): Shorthand | undefined {
  if (typeof found !== "string" || !/^\d+$/.test(found)) return undefined;
  const text = `{${axesOf(chart).axis}: ${found}}`;
  return { says: `"top" says of which axis the first are drawn: top: ${text}`, text };
}

function legendOf(found: Tree): Shorthand | undefined {
  if (typeof found !== "string") return undefined;
  const at = /^(false|no|off|hidden)$/i.test(found) ? "none" : found;
  if (!(LEGEND_PLACES as readonly string[]).includes(at)) return undefined;
  return { says: `the place of a legend stands under at: legend: {at: ${at}}`, text: `{at: ${at}}` };
}

/** Several marks in one chart are its layers. */
function drawOf(found: Tree): Shorthand | undefined {
  if (!Array.isArray(found) || !found.every((one) => typeof one === "string")) return undefined;
  const layers = found.map((mark) => `{draw: ${mark}}`).join(", ");
  return { says: `several marks in one chart are its layers, in place of draw: layers: [${layers}]` };
}

function columnsOf(found: Tree, chart: Tree | undefined): Shorthand | undefined {
  if (!isTable(chart) || typeof found !== "string" || !/^(?:all|\*)$/.test(found)) return undefined;
  return { says: "without columns: a data table shows all columns of its table" };
}

/** `axes: {x: log}` and `cells: {tonnes: bar}`: one word in place of a map. */
function wordOf(found: Tree, words: readonly string[], write: (word: string) => string): Shorthand | undefined {
  if (typeof found !== "string" || !words.includes(found)) return undefined;
  const text = write(found);
  return { says: `a map is expected here: ${text}`, text };
}

const SHORT: Readonly<Record<string, (found: Tree, chart: Tree | undefined) => Shorthand | undefined>> = {
  sort: sortOf,
  top: topOf,
  legend: legendOf,
  draw: drawOf,
  columns: columnsOf,
};

/** Rows of names as lists, which are the text of a grid. */
function gridOf(found: Tree): Shorthand | undefined {
  if (!Array.isArray(found)) return undefined;
  const rows = found.map((row) => (Array.isArray(row) ? row.join(" ") : row));
  if (!rows.every((row) => typeof row === "string" && /^[\w. ]+$/.test(row))) return undefined;
  const text = rows.length === 1 ? String(rows[0]) : JSON.stringify(rows.join("\n"));
  return { says: `a grid is a text, in rows of names: ${text}`, text };
}

const pickOf = (found: Tree): Shorthand | undefined =>
  Array.isArray(found)
    ? { says: `a control picks by one column; by several readers ask with pick: any and of: [${found.join(", ")}]` }
    : undefined;

/** Things that have names, and what alone is written in place of one. */
const NAMED: Readonly<Record<string, (found: Tree) => Shorthand | undefined>> = {
  notes: (found) => {
    const text = typeof found === "string" ? `{text: ${JSON.stringify(found)}}` : undefined;
    return text === undefined ? undefined : { says: `the words of a note stand under text: ${text}`, text };
  },
  tables: (found) => {
    const text = typeof found === "string" && /\.\w+$/.test(found) ? `{read: ${found}}` : undefined;
    return text === undefined ? undefined : { says: `the file of a table stands under read: ${text}`, text };
  },
};

const own = <T>(record: Readonly<Record<string, T>>, key: string): T | undefined =>
  Object.hasOwn(record, key) ? record[key] : undefined;

/**
 * What is meant by a value of another shape at a place of the sheet; nothing where nobody can tell. `around` is the
 * map that it stands in.
 */
export function shorthandOf(path: Path, found: Tree, around: Tree | undefined): Shorthand | undefined {
  const [root, , inside] = path;
  const key = path.at(-1);
  if (path.length === 2) return own(NAMED, String(root))?.(found);
  if (typeof key !== "string") return undefined;
  if (root === "tables" && inside === "steps") {
    if (path.length === 3 && found !== null && typeof found === "object" && !Array.isArray(found))
      return { says: `each step is an item of a list: - ${Object.keys(found)[0]}: …` };
    return own(SHORT_STEPS, key)?.(found);
  }
  if (root === "controls") return key === "pick" ? pickOf(found) : undefined;
  if (root === "pages") return key === "grid" ? gridOf(found) : undefined;
  if (root !== "charts") return undefined;
  if (path.at(-2) === "axes") return wordOf(found, Object.keys(SCALES), (scale) => `{scale: ${scale}}`);
  if (path.at(-2) === "cells") return wordOf(found, ["bar"], () => "{bar: true}");
  return own(SHORT, key)?.(found, around);
}
