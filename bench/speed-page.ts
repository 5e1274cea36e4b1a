/** The page of measured figures in docs/, with what they mean and what is not reached. */
export function speedPage(rows: number, figures: string): string {
  return `# How fast it is

Measured by \`./still bench --docs\` over ${rows.toLocaleString("en")} rows of made-up vessel calls, in Node and in headless
Chromium without a graphics processor, all in one run on one machine of two cores. Times of other machines differ;
ratios differ less. A frame at rest takes 17 ms here, and is part of every whole frame below.

${figures}

## How the cost grows with the rows

- **A brush over views that sum or count** costs the same at any number of rows: two look-ups for each group of
  each view, in tables that are made while the pointer is over the chart. Until a table is made a move is answered by
  what has changed since the move before.
- **Medians, quantiles and different values** under such a brush are found from counts of blocks of 1,024 ranks: the
  cost is the number of blocks, one for a thousand rows, and one block to go over for each group.
- **A box, ticked values, a slider of a control**: the rows that came and went are found, and every view follows them.
  The cost is the number of rows that changed, times the views. Where more than a quarter of all rows change at once,
  all are gone over.
- **Points** above 20,000 count what falls on each pixel; while a brush moves only pixels of points that come or go
  are counted again.
- **Boxes** go over all rows, in an order that is made once: for whiskers and outliers it is not enough to know places.

## What is not reached, and why

- A box brush that moves by a hundredth of its axis at a time over a million rows changes tens of thousands of rows a
  frame; its slowest moves, where most rows lie, are above the 16 ms aimed at. Totals kept for tiles of the plane would
  answer these; they are not made.
- The viewer's script is larger than aimed at: every part that a plan can reach under some setting is there.
- The first move after a control has changed, and the first tick of thirty values, change most rows at once: all views
  go over them anew. Moves after that are quick again.
- A key that changes what is seen waits for the sheet to be compiled, and for the page of the proof to be laid out anew
  whole, whichever of its pieces changed.
`;
}
