import type { Scalar } from "../table/column";
import type { Frame } from "./evaluate";
import { evaluate } from "./evaluate";
import type { Formula } from "./tree";
import { textAt } from "./vector";

/** The one value of a formula that holds no column, under the settings as they are; missing as `null`. */
export function constantValue(formula: Formula, setting: Frame["setting"]): Scalar {
  const vector = evaluate(formula, { length: 1, column: () => undefined, setting });
  if (vector.kind === "text") return textAt(vector, 0);
  const value = vector.values[0] as number;
  if (value !== value) return null;
  return vector.kind === "boolean" ? value === 1 : value;
}
