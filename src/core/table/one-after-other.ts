import { type Column, gather, isAllMissing, type NumericColumn, type TextColumn } from "./column";

const lengthOf = (column: Column) => (column.kind === "text" ? column.codes : column.values).length;

/** Two columns of one kind as one, the second after the first; a column that is not there is all missing. */
export function oneAfterTheOther(above: Column, below: Column | undefined, belowRows = 0): Column {
  // A column without a known value is of any kind.
  if (below && (above.kind === "text") !== (below.kind === "text")) {
    if (isAllMissing(below)) return oneAfterTheOther(above, undefined, lengthOf(below));
    return gather(
      below,
      Int32Array.from({ length: lengthOf(above) + lengthOf(below) }, (_, row) => row - lengthOf(above)).map((row) =>
        Math.max(-1, row),
      ),
    );
  }
  if (above.kind === "text") return texts(above, below as TextColumn | undefined, belowRows);
  const added = (below as NumericColumn | undefined)?.values ?? new Float64Array(belowRows).fill(Number.NaN);
  const values = new Float64Array(above.values.length + added.length);
  values.set(above.values);
  values.set(added, above.values.length);
  // A date beside datetimes is the moment at which it begins.
  return {
    kind:
      below && below.kind !== above.kind && (below.kind === "datetime" || above.kind === "datetime")
        ? "datetime"
        : above.kind,
    values,
  };
}

function texts(above: TextColumn, below: TextColumn | undefined, belowRows: number): TextColumn {
  const dictionary = [...above.dictionary];
  const known = new Map(dictionary.map((text, code) => [text, code]));
  const recode = Int32Array.from(below?.dictionary ?? [], (text) => {
    const code = known.get(text) ?? dictionary.push(text) - 1;
    known.set(text, code);
    return code;
  });
  const added = below?.codes.map((code) => recode[code] ?? -1) ?? new Int32Array(belowRows).fill(-1);
  const codes = new Int32Array(above.codes.length + added.length);
  codes.set(above.codes);
  codes.set(added, above.codes.length);
  return { ...above, codes, dictionary };
}
