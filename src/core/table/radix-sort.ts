/**
 * Row numbers in rising order of their values, stable, in time that grows with the number of rows
 * alone: least significant digits first, sixteen bits a pass, over the bits of the floats
 * (D. Knuth, "The Art of Computer Programming", vol. 3, 5.2.5). `NaN` stands last.
 */
export function sortedByValue(values: Float64Array, rows: Int32Array): Int32Array {
  const count = rows.length;
  const high = new Uint32Array(count);
  const low = new Uint32Array(count);
  const bits = new DataView(new ArrayBuffer(8));
  for (let i = 0; i < count; i++) {
    // Adding zero makes one zero of both.
    const value = (values[rows[i] as number] as number) + 0;
    bits.setFloat64(0, value);
    const top = bits.getUint32(0);
    const rest = bits.getUint32(4);
    // Floats order as their bits do once negative ones are turned over.
    const negative = top >>> 31 === 1 && value === value;
    high[i] = value !== value ? 0xffffffff : negative ? ~top : top | 0x80000000;
    low[i] = negative ? ~rest : rest;
  }
  let order = new Int32Array(count);
  for (let i = 0; i < count; i++) order[i] = i;
  let next = new Int32Array(count);
  const starts = new Uint32Array(65537);
  for (let pass = 0; pass < 4; pass++) {
    const words = pass < 2 ? low : high;
    const shift = pass % 2 === 0 ? 0 : 16;
    starts.fill(0);
    for (let i = 0; i < count; i++) {
      const digit = ((words[i] as number) >>> shift) & 0xffff;
      starts[digit + 1] = (starts[digit + 1] as number) + 1;
    }
    // Where all share a digit there is nothing to do.
    if (count > 0 && starts[(((words[0] as number) >>> shift) & 0xffff) + 1] === count) continue;
    for (let digit = 0; digit < 65536; digit++)
      starts[digit + 1] = (starts[digit + 1] as number) + (starts[digit] as number);
    for (let i = 0; i < count; i++) {
      const at = order[i] as number;
      const digit = ((words[at] as number) >>> shift) & 0xffff;
      const place = starts[digit] as number;
      next[place] = at;
      starts[digit] = place + 1;
    }
    [order, next] = [next, order];
  }
  return order.map((at) => rows[at] as number);
}
