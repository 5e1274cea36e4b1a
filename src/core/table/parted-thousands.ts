/** So many values are looked at, from everywhere in a column. */
const LOOKED_AT = 4000;
/** Fewer values than this with decimals tell nothing. */
const FEWEST = 6;
/** Of amounts that reach into thousands this part or more lies below a thousand, and has no mark; */
const BELOW = 0.05;
/** and of the others this part or more does not end with a zero, which would not be written of a decimal. */
const THIRD = 0.75;

/**
 * A value of a column whose decimals look like thousands: amounts written "1.467" beside "901", read as one and a
 * bit beside nine hundred and one. Every value with decimals then has three of them and none is below one, and
 * whole numbers below a thousand stand among them, which of measured decimals is hardly ever so. Nothing for other
 * columns.
 */
export function partedThousands(values: Float64Array): number | undefined {
  const stride = Math.max(1, Math.floor(values.length / LOOKED_AT));
  let [below, parted, third] = [0, 0, 0];
  let example: number | undefined;
  for (let row = 0; row < values.length; row += stride) {
    const size = Math.abs(values[row] as number);
    if (size !== size) continue;
    if (size >= 1000) return undefined;
    if (Number.isInteger(size)) below += 1;
    else {
      const thousandths = Math.round(size * 1000);
      if (size < 1 || thousandths / 1000 !== size) return undefined;
      parted += 1;
      if (thousandths % 10 !== 0) {
        third += 1;
        example ??= size;
      }
    }
  }
  return parted >= FEWEST && below >= BELOW * (below + parted) && third >= THIRD * parted ? example : undefined;
}
