import { evaluate, type Frame } from "../formula/evaluate";
import { type Formula, walk } from "../formula/tree";

/** Rows in which a formula divides something known by zero; their result is missing, which the ledger says. */
export function divisionsByZero(formula: Formula, frame: Frame): number {
  const divisions: (Formula & { type: "binary" })[] = [];
  walk(formula, (node) => {
    if (node.type === "binary" && node.operator === "/") divisions.push(node);
    // What stands inside an aggregate is no value of a row.
    return node.type !== "of";
  });
  if (divisions.length === 0) return 0;
  const zero = new Uint8Array(frame.length);
  for (const { left, right } of divisions) {
    const [above, below] = [evaluate(left, frame), evaluate(right, frame)];
    if (above.kind === "text" || below.kind === "text") continue;
    for (let row = 0; row < frame.length; row++) {
      const value = above.values[row * above.step] as number;
      if (below.values[row * below.step] === 0 && value === value) zero[row] = 1;
    }
  }
  return zero.reduce((sum, flag) => sum + flag, 0);
}
