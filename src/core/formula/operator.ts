import { Kit } from "../finding/kit";
import type { Frame } from "./evaluate";
import type { Formula } from "./tree";
import type { Vector } from "./vector";

/** What a sign or word between formulas makes of them, over all rows. It evaluates them itself. */
export type Operator<N extends Formula = Formula> = (
  node: N,
  frame: Frame,
  evaluate: (node: Formula, frame: Frame) => Vector,
) => Vector;

/** Operators by the type of their node; a dashboard has them where one of its formulas does. */
export const OPERATORS = new Kit<Operator<never>>("operator of");

/** The operator of a type of node. */
export const operator = (type: string): Operator => OPERATORS.get(type) as Operator;
