import type { Scalar } from "../table/column";

/** The values of a setting that is a list. */
export const listOf = (value: Scalar): (string | number)[] =>
  typeof value === "string" && value.startsWith("[") ? (JSON.parse(value) as (string | number)[]) : [];
