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
  let count = 0;
  for (const { left, right } of divisions) {
    const [above, below] = [evaluate(left, frame), evaluate(right, frame)];
    if (above.kind === "text" || below.kind === "text") continue;
    const [high, low] = [above.values, below.values];
    const [wholeHigh, wholeLow] = [above.step ? -1 : 0, below.step ? -1 : 0];
    for (let row = 0; row < frame.length; row++) {
      if (low[row & wholeLow] !== 0) continue;
      const value = high[row & wholeHigh] as number;
      if (value === value && zero[row] === 0) {
        zero[row] = 1;
        count += 1;
      }
    }
  }
  return count;
}
