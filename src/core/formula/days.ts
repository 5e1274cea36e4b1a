import { type Formula, mapFormula } from "./tree";

/** What reads a text as a moment by itself. */
const READS: ReadonlySet<string> = new Set(["date", "datetime"]);

/** Reads settings that are days as dates: wherever one stands it is what a date in a column is. */
export function withDays(formula: Formula, isDay: (setting: string) => boolean): Formula {
  return mapFormula(formula, (node) => {
    if (node.type === "call" && READS.has(node.name) && node.arguments[0]?.type === "setting") return node;
    if (node.type !== "setting" || !isDay(node.name)) return undefined;
    return { type: "call", name: "date", arguments: [node], ...(node.at ? { at: node.at } : {}) };
  });
}
