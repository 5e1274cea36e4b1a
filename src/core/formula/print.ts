import type { Formula } from "./tree";
import { writeName } from "./words";

const LEVELS: Record<string, number> = {
  or: 1,
  and: 2,
  "=": 4,
  "!=": 4,
  "<": 4,
  "<=": 4,
  ">": 4,
  ">=": 4,
  "+": 5,
  "-": 5,
  "*": 6,
  "/": 6,
  "^": 8,
};

function levelOf(formula: Formula): number {
  switch (formula.type) {
    case "binary":
      return LEVELS[formula.operator] as number;
    case "not":
      return 3;
    case "between":
    case "in":
      return 4;
    case "minus":
      return 7;
    case "number":
      return formula.value < 0 ? 7 : 9;
    default:
      return 9;
  }
}

/** Writes a tree as a formula; reading that text gives the same tree. Equal trees give equal texts. */
export function printFormula(formula: Formula): string {
  const inside = (part: Formula, least: number) => {
    const text = printFormula(part);
    return levelOf(part) < least ? `(${text})` : text;
  };
  switch (formula.type) {
    case "number":
      return String(formula.value);
    case "text":
      return `"${formula.value.replaceAll("\\", "\\\\").replaceAll('"', '\\"').replaceAll("\n", "\\n").replaceAll("\t", "\\t")}"`;
    case "boolean":
      return String(formula.value);
    case "missing":
      return "missing";
    case "before":
      return "before";
    case "column":
      return writeName(formula.name);
    case "setting":
      return `$${formula.name}`;
    case "selected":
      return `${formula.selection}.${writeName(formula.column)}`;
    case "picked":
      return `picked(${formula.selection})`;
    case "list":
      return `[${formula.items.map(printFormula).join(", ")}]`;
    case "call":
      return `${formula.name}(${formula.arguments.map(printFormula).join(", ")})`;
    case "minus":
      return `-${inside(formula.operand, 7)}`;
    case "not":
      return `not ${inside(formula.operand, 3)}`;
    case "between":
      return `${inside(formula.value, 5)} between ${inside(formula.low, 5)} and ${inside(formula.high, 5)}`;
    case "in":
      return `${inside(formula.value, 5)} in ${inside(formula.list, 5)}`;
    case "of":
      return `${inside(formula.aggregate, 9)} of ${formula.selection}`;
    case "binary": {
      const level = LEVELS[formula.operator] as number;
      if (formula.operator === "^") return `${inside(formula.left, 9)} ^ ${inside(formula.right, 7)}`;
      const comparison = level === 4;
      return `${inside(formula.left, comparison ? 5 : level)} ${formula.operator} ${inside(formula.right, level + 1)}`;
    }
  }
}
