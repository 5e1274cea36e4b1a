import type { Scalar } from "../table/column";

/** One mark, row or number of a piece as scripts see it. */
export type PlainRow = Record<string, Scalar>;
