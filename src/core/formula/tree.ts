import type { Kind } from "../table/column";

/**
 * A formula as a tree of plain data: it travels into a dashboard's plan as JSON.
 * `at` is where the node stands in the formula's text; it is dropped when packed.
 */
export interface At {
  start: number;
  end: number;
}

export type BinaryOperator = "+" | "-" | "*" | "/" | "^" | "=" | "!=" | "<" | "<=" | ">" | ">=" | "and" | "or";

export type Formula =
  | { type: "number"; value: number; at?: At }
  | { type: "text"; value: string; at?: At }
  | { type: "boolean"; value: boolean; at?: At }
  | { type: "missing"; at?: At }
  /** In `recur`: the result in the row before. */
  | { type: "before"; at?: At }
  | { type: "column"; name: string; at?: At }
  | { type: "setting"; name: string; at?: At }
  | { type: "list"; items: Formula[]; at?: At }
  | { type: "call"; name: string; arguments: Formula[]; at?: At }
  | { type: "minus"; operand: Formula; at?: At }
  | { type: "not"; operand: Formula; at?: At }
  | { type: "binary"; operator: BinaryOperator; left: Formula; right: Formula; at?: At }
  | { type: "between"; value: Formula; low: Formula; high: Formula; at?: At }
  | { type: "in"; value: Formula; list: Formula; at?: At }
  /** An aggregate asked for over other rows: `of all`, or over a selection. */
  | { type: "of"; aggregate: Formula; selection: string; at?: At }
  /** The value of a column in a selection, `NAME.column`. */
  | { type: "selected"; selection: string; column: string; kind?: Kind; at?: At }
  /** Whether a row is in a selection, `picked(NAME)`. */
  | { type: "picked"; selection: string; at?: At };

/** The direct parts of a node. */
export function partsOf(formula: Formula): Formula[] {
  switch (formula.type) {
    case "list":
      return formula.items;
    case "call":
      return formula.arguments;
    case "minus":
    case "not":
      return [formula.operand];
    case "binary":
      return [formula.left, formula.right];
    case "between":
      return [formula.value, formula.low, formula.high];
    case "in":
      return [formula.value, formula.list];
    case "of":
      return [formula.aggregate];
    default:
      return [];
  }
}

/** Calls `visit` for the node and all below it; a visit that answers `false` does not go deeper. */
export function walk(formula: Formula, visit: (node: Formula) => boolean | undefined | void): void {
  if (visit(formula) === false) return;
  for (const part of partsOf(formula)) walk(part, visit);
}

/** The tree with nodes exchanged where `exchange` answers one; its parts are not visited again. */
export function mapFormula(formula: Formula, exchange: (node: Formula) => Formula | undefined): Formula {
  const other = exchange(formula);
  if (other) return other;
  const map = (part: Formula) => mapFormula(part, exchange);
  switch (formula.type) {
    case "list":
      return { ...formula, items: formula.items.map(map) };
    case "call":
      return { ...formula, arguments: formula.arguments.map(map) };
    case "minus":
    case "not":
      return { ...formula, operand: map(formula.operand) };
    case "binary":
      return { ...formula, left: map(formula.left), right: map(formula.right) };
    case "between":
      return { ...formula, value: map(formula.value), low: map(formula.low), high: map(formula.high) };
    case "in":
      return { ...formula, value: map(formula.value), list: map(formula.list) };
    case "of":
      return { ...formula, aggregate: map(formula.aggregate) };
    default:
      return formula;
  }
}

/** Names of all columns that the formula reads. */
export function columnsOf(formula: Formula): Set<string> {
  const names = new Set<string>();
  walk(formula, (node) => {
    if (node.type === "column") names.add(node.name);
  });
  return names;
}

/** Names of the selections that a formula speaks of, `of all` aside. */
export function selectionsOf(formula: Formula): Set<string> {
  const names = new Set<string>();
  walk(formula, (node) => {
    if ((node.type === "of" && node.selection !== "all") || node.type === "selected" || node.type === "picked")
      names.add(node.selection);
  });
  return names;
}

/** Names of all settings that the formula reads. */
export function settingsOf(formula: Formula): Set<string> {
  const names = new Set<string>();
  walk(formula, (node) => {
    if (node.type === "setting") names.add(node.name);
  });
  return names;
}

/** The tree without places, as it is packed. */
export function withoutPlaces(formula: Formula): Formula {
  const bare = mapFormula(formula, (node) => (node === formula ? undefined : withoutPlaces(node)));
  const { at: _, ...rest } = bare;
  return rest as Formula;
}
