import type { Column } from "../table/column";
import { oneAfterTheOther } from "../table/one-after-other";

type Value = string | number;

/**
 * Rows behind the groups of a table that are no groups: they hold what all rows told of a column and the groups do
 * not, such as where bins begin and end, or which values have colours.
 */
export class RowsBeyond {
  private readonly known = new Map<string, { values: readonly (Value | undefined)[]; fill: Value | undefined }>();

  /** Values of a column that no group has, missing among them; `fill` stands in rows that other columns need. */
  add(column: string, values: readonly (Value | undefined)[], fill?: Value) {
    if (values.length || fill !== undefined) this.known.set(column, { values, fill });
  }

  /** How many rows there are. */
  get count(): number {
    return Math.max(0, ...[...this.known.values()].map(({ values }) => values.length));
  }

  /** A column with these rows behind its own; missing where nothing is to be told. */
  behind(name: string, column: Column): Column {
    const { values = [], fill } = this.known.get(name) ?? {};
    const all = Array.from({ length: this.count }, (_, row) => values[row] ?? fill);
    return oneAfterTheOther(column, ofSameKind(column, all), all.length);
  }
}

function ofSameKind(column: Column, all: readonly (Value | undefined)[]): Column {
  if (column.kind !== "text")
    return { ...column, values: Float64Array.from(all, (value) => Number(value ?? Number.NaN)) };
  const dictionary = [...new Set(all.filter((value) => value !== undefined).map(String))];
  const codes = Int32Array.from(all, (value) => (value === undefined ? -1 : dictionary.indexOf(String(value))));
  return { kind: "text", dictionary, codes };
}
