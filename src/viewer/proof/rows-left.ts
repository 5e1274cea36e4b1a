import type { App } from "../app";

/** How many rows stand behind what a piece shows, and behind what it shows with nothing selected. */
export type RowsLeft = Record<string, { left: number; all: number }>;

export function rowsLeft({ model }: App): RowsLeft {
  const sum = (counts: Float64Array | Uint8Array) => {
    let rows = 0;
    for (let at = 0; at < counts.length; at++) rows += counts[at] as number;
    return rows;
  };
  return Object.fromEntries(
    model.plan.pieces.flatMap(({ name }) => {
      const asked = model.leadingAsked(name);
      const { engine } = model;
      return asked ? [[name, { left: sum(engine.answer(asked).counts), all: sum(engine.all(asked).counts) }]] : [];
    }),
  );
}
