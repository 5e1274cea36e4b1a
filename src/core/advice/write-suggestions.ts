import { writeValue } from "../sheet/edit/edit";
import { readSheet } from "../sheet/read-sheet";
import type { Suggestion } from "./rules";

/** A sheet with suggested charts, and the names that they have there. */
export interface Written {
  text: string;
  names: string[];
}

/**
 * Writes suggested charts into a sheet, with every chart of the table linked to every other where several come;
 * a sheet that had none gets a page on which they stand. What is written already stays as it is, byte for byte.
 */
export function writeSuggestions(before: string, suggestions: readonly Suggestion[], table: string): Written {
  const sheet = readSheet(before, "report");
  const taken = new Set([...sheet.charts.keys(), ...sheet.controls.keys(), ...sheet.notes.keys()]);
  let text = before;
  const names = suggestions.map(({ name, spec }) => {
    const free = freeName(name, taken);
    taken.add(free);
    const lines = Object.entries(spec).map(([key, value]) => `    ${key}: ${writeValue(value)}\n`);
    text = blockUnder(text, "charts", `  ${free}:\n${lines.join("")}`);
    return free;
  });
  if (suggestions.length > 1 && !new RegExp(`cross-filter ${table}\\b`).test(text))
    text = blockUnder(text, "links", `  - cross-filter ${table}\n${along(suggestions, names)}`);
  if (sheet.charts.size === 0 && sheet.pages.length === 0 && names.length > 2)
    text = blockUnder(text, "pages", firstPage(suggestions, names));
  return { text, names };
}

/** Of a way: what the pointer is at in its first profile is shown on the map and in the others. */
function along(suggestions: readonly Suggestion[], names: readonly string[]): string {
  const of = (isOne: (spec: Suggestion["spec"]) => boolean) =>
    names.filter((_, at) => isOne((suggestions[at] as Suggestion).spec));
  const maps = of(({ draw }) => draw === "track");
  const [profile, ...others] = of(({ draw, title }) => draw === "area" && String(title).endsWith("on the way"));
  if (profile === undefined || maps.length + others.length === 0) return "";
  return `  - hover x on ${profile} -> crosshair ${[...maps, ...others].join(", ")}\n`;
}

/** A name that nothing has yet: with a number behind it where it is taken. */
export function freeName(wanted: string, taken: ReadonlySet<string>): string {
  for (let number = 2, name = wanted; ; number++) {
    if (!taken.has(name)) return name;
    name = `${wanted}_${number}`;
  }
}

/** A row of the first page: its height, and the charts in it with the parts of its width that they take. */
interface PageRow {
  height: string;
  cells: [name: string, part: number][];
}

/** The first page: a figure over the second chart at the left, the first large beside them, the others below. */
function firstPage(suggestions: readonly Suggestion[], names: readonly string[]): string {
  const isList = (at: number) => ["table", "summary"].includes(String(suggestions[at]?.spec.draw));
  const isFigure = (at: number) => suggestions[at]?.spec.draw === "figure";
  const [figure, ...figures] = names.filter((_, at) => isFigure(at));
  const [large, ...charts] = names.filter((_, at) => !isFigure(at) && !isList(at));
  const rows: PageRow[] = [];
  if (figure !== undefined && large !== undefined) {
    const under = charts.shift() ?? ".";
    rows.push({
      height: "96px",
      cells: [
        [figure, 1 / 3],
        [large, 2 / 3],
      ],
    });
    rows.push({
      height: "264px",
      cells: [
        [under, 1 / 3],
        [large, 2 / 3],
      ],
    });
  } else
    for (const one of [large, figure])
      if (one) rows.push({ height: one === figure ? "96px" : "320px", cells: [[one, 1]] });
  // No more than three charts in a row, and all rows as full as one another.
  const count = Math.ceil(charts.length / 3);
  for (let row = 0; row < count; row++) {
    const own = charts.slice(Math.ceil((charts.length * row) / count), Math.ceil((charts.length * (row + 1)) / count));
    rows.push({ height: "250px", cells: own.map((name) => [name, 1 / own.length]) });
  }
  for (const one of figures) rows.push({ height: "96px", cells: [[one, 1]] });
  for (const list of names.filter((_, at) => isList(at))) rows.push({ height: "300px", cells: [[list, 1]] });
  const isHalved = rows.some(({ cells }) => cells.some(([, part]) => part === 1 / 2));
  const columns = isHalved ? 6 : 3;
  const longest = Math.max(...names.map((name) => name.length));
  const grid = rows.map(({ cells }) => {
    const words = cells.flatMap(([name, part]) =>
      new Array<string>(Math.round(part * columns)).fill(name.padEnd(longest)),
    );
    return `      ${words.join(" ").trimEnd()}\n`;
  });
  const heights = rows.map(({ height }) => height).join(" ");
  const widths = new Array(columns).fill("1fr").join(" ");
  return `  - page: Overview\n    height: content\n    columns: ${widths}\n    rows: ${heights}\n    grid: |\n${grid.join("")}`;
}

/** The text with lines added at the end of a top-level part, which is made if it is not there. */
function blockUnder(text: string, part: string, lines: string): string {
  const head = new RegExp(`^${part}:[^\\n]*\\n`, "m").exec(text);
  if (!head) return `${text}${text.endsWith("\n") ? "" : "\n"}\n${part}:\n${lines}`;
  const rest = text.slice(head.index + head[0].length);
  const next = /^(?:[a-z]|#)/m.exec(rest);
  const end = head.index + head[0].length + (next ? next.index : rest.length);
  const body = text.slice(0, end).replace(/\n+$/, "\n");
  return `${body}${lines}${text.slice(body.length)}`;
}
