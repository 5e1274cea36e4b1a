import type { Shorthand } from "./shorthands";
import type { Tree } from "./tree";

/** A name as it stands in a list or a map of one line. */
const inLine = (text: string) => (/^[\p{L}\p{N}_. ()+*/-]*$/u.test(text) ? text : JSON.stringify(text));

const areTexts = (found: Tree): found is string[] =>
  Array.isArray(found) && found.length > 0 && found.every((one) => typeof one === "string");

const written = (says: string, text: string): Shorthand => ({ says: `${says}: ${text}`, text });

function groupOf(found: Tree): Shorthand | undefined {
  const by = typeof found === "string" ? [found] : areTexts(found) ? found : undefined;
  return by && written("a group has keys and measures", `{by: [${by.map(inLine).join(", ")}], get: {n: count()}}`);
}

/** `[sum(tonnes), count()]`: measures without their names. */
function measuresOf(found: Tree): Shorthand | undefined {
  const formulas = typeof found === "string" ? [found] : areTexts(found) ? found : undefined;
  if (!formulas) return undefined;
  const named = formulas.map((formula) => `${/\((\w+)\)$/.exec(formula)?.[1] ?? "n"}: ${inLine(formula)}`);
  return written("each measure has a name", `{${named.join(", ")}}`);
}

function columnAdded(found: Tree): Shorthand | undefined {
  const [, name, formula] = (typeof found === "string" && /^(\w+)\s*=\s*([^=].*)$/.exec(found)) || [];
  return name === undefined
    ? undefined
    : written("a column has its name before it", `{${name}: ${inLine(formula ?? "")}}`);
}

function columnsMadeLong(found: Tree): Shorthand | undefined {
  if (!areTexts(found)) return undefined;
  const text = `{columns: [${found.map(inLine).join(", ")}], name: name, value: value}`;
  return written("the heads and the values of the columns get names", text);
}

/** `{tonnes: desc}`: an order as a map. */
function orderOf(found: Tree): Shorthand | undefined {
  if (found === null || typeof found !== "object" || Array.isArray(found)) return undefined;
  const items = Object.entries(found);
  if (!items.every(([, way]) => typeof way === "string" && /^(asc|desc)/i.test(way))) return undefined;
  const text = `[${items.map(([name, way]) => `${/^desc/i.test(String(way)) ? "-" : ""}${inLine(name)}`).join(", ")}]`;
  return written("- before a column is descending", text);
}

const joined = (found: Tree): Shorthand | undefined =>
  typeof found === "string"
    ? { says: `a look-up names what is looked up: join: {table: ${inLine(found)}, on: COLUMN, get: [COLUMNS]}` }
    : undefined;

const filled = (found: Tree): Shorthand | undefined =>
  typeof found === "string" ? { says: `it is said of which column: fill: {COLUMN: ${inLine(found)}}` } : undefined;

const sampled = (found: Tree): Shorthand | undefined =>
  typeof found === "string" && /^\d+$/.test(found)
    ? written("a sample has so many rows", `{rows: ${found}}`)
    : undefined;

const uniqueBy = (found: Tree): Shorthand | undefined =>
  typeof found === "string"
    ? written("rows are told apart by a list of columns, or by all", `[${inLine(found)}]`)
    : undefined;

/** What is written short under a key of a step, with what is meant. */
export const SHORT_STEPS: Readonly<Record<string, (found: Tree) => Shorthand | undefined>> = {
  group: groupOf,
  get: measuresOf,
  add: columnAdded,
  unpivot: columnsMadeLong,
  sort: orderOf,
  join: joined,
  fill: filled,
  sample: sampled,
  unique: uniqueBy,
};
