/** The page of measured figures in docs/, with what they mean and what is not reached. */
export function speedPage(rows: number, figures: string): string {
  return `# How fast it is

Measured by \`./still bench --docs\` over ${rows.toLocaleString("en")} rows of made-up vessel calls, in Node and in headless
Chromium without a graphics processor, all in one run on one machine of two cores. Times of other machines differ;
ratios differ less. A whole frame is computing, drawing, layout and paint; what a browser does beside its pages' own
thread is not in it, but in how far frames are apart, 17 ms at rest.

${figures}

## How the cost grows with the rows

- **A brush over views that sum or count** costs the same at any number of rows: two look-ups for each group of
  each view, in tables that are made while the pointer is over the chart. Until a table is made a move is answered by
  what has changed since the move before.
- **Medians, quantiles and different values** under such a brush are found from counts of blocks of 1,024 ranks: the
  cost is the number of blocks, one for a thousand rows, and one block to go over for each group.
- **A box, an outline** find tiles that lie whole inside, of which totals are kept, and look at the rows of tiles at
  the rim alone. Tiles hold equally many rows, so that there are few of them wherever the box stands. For questions of
  many groups four or sixteen tiles go into one.
- **Ticked values, a range of a control** have totals by value or step: the cost is the number of runs of values.
- All these tables are made, in slices, when the pointer or the focus comes to the brush or control. What is asked for
  before that, or has no room, follows the rows that came and went; where more than a quarter of all rows change at
  once, all are gone over.
- **Points** above 20,000 count what falls on each pixel; while a brush moves only pixels of points that come or go
  are counted again.
- **Boxes** count which rows are left in an order that is made once; quartiles, whiskers and rows beyond are found in it.

## What is not reached, and why

- The viewer's script is larger than aimed at: every part that a plan can reach under some setting is there.
- Lists and points ask for the rows themselves: where most rows change at once they are gone over, some ten
  milliseconds for a million.
- A key that changes what is seen waits for the sheet to be compiled, and for the page of the proof to be laid out anew
  whole, whichever of its pieces changed.
`;
}
