import type { Scope } from "./scope";
import { type Formula, mapFormula } from "./tree";

/** All that a call of `chosen` or `agg` may become, one for each value of its setting. */
export function optionsOf(node: Formula & { type: "call" }, options: readonly string[]): Formula[] {
  const at = node.at ? { at: node.at } : {};
  if (node.name === "chosen") return options.map((name) => ({ type: "column", name, ...at }));
  return options.map((name) => ({ type: "call", name, arguments: [node.arguments[1] as Formula], ...at }));
}

/** The name in `picked(NAME)`, which the parser takes for a column, or for a column of a selection. */
export function selectionName(node: Formula): string | undefined {
  return node.type === "column" ? node.name : node.type === "selected" ? `${node.selection}.${node.column}` : undefined;
}

/**
 * Makes `picked(NAME)` a node of its own and tells values of selections their kind, so that no name is taken for
 * a column.
 */
export function withSelections(formula: Formula, selections: Scope["selections"]): Formula {
  return mapFormula(formula, (node) => {
    if (node.type === "call" && node.name === "picked" && node.arguments[0])
      return { type: "picked", selection: selectionName(node.arguments[0]) ?? "", ...(node.at ? { at: node.at } : {}) };
    const kind = node.type === "selected" ? selections?.get(node.selection)?.get(node.column) : undefined;
    return kind && node.type === "selected" ? { ...node, kind } : undefined;
  });
}

/**
 * Writes behind the setting of every `chosen` and `agg` all that it may choose: evaluation, pruning and grouping
 * then see columns and aggregates.
 */
export function withOptions(formula: Formula, options: Scope["options"]): Formula {
  return mapFormula(formula, (node) => {
    const setting =
      node.type === "call" && (node.name === "chosen" || node.name === "agg") ? node.arguments[0] : undefined;
    const known = setting?.type === "setting" ? options?.get(setting.name) : undefined;
    if (!known || node.type !== "call") return undefined;
    return {
      ...node,
      arguments: [setting as Formula, ...optionsOf(node, known).map((option) => withOptions(option, options))],
    };
  });
}
