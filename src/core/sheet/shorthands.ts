import { LEGEND_PLACES } from "../chart/plan";
import { AGGREGATES } from "../formula/aggregate-names";
import type { Tree } from "./tree";

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
  const text =
    typeof found === "string"
      ? found
      : Array.isArray(found) && found.every((one) => typeof one === "string")
        ? found.join(", ")
        : undefined;
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

const SHORT: Readonly<Record<string, (found: Tree, chart: Tree | undefined) => Shorthand | undefined>> = {
  sort: sortOf,
  top: topOf,
  legend: legendOf,
  draw: drawOf,
  columns: columnsOf,
};

/** What is meant by a value of another shape under a key of a chart; nothing for those that nobody can tell. */
export const shorthandOf = (key: string, found: Tree, chart: Tree | undefined): Shorthand | undefined =>
  Object.hasOwn(SHORT, key) ? SHORT[key]?.(found, chart) : undefined;
