import { textsHeld } from "../predicate";
import { type Indexer, indexerOf } from "./in-hand";
import { OUT, RowPlaces, WHOLE } from "./row-places";

/** Most different texts that are worth an index: totals are kept for each. */
const MOST_TEXTS = 4096;

/** An index of values that are picked from one column of texts: every text is a place, and so is none. */
export const textIndexer: Indexer = indexerOf((of) => {
  const { plan, columns } = of;
  const [key, ...more] = Object.values(plan.keys);
  const column = key && more.length === 0 ? columns.get(key) : undefined;
  if (column?.kind !== "text" || plan.split !== undefined || column.dictionary.length > MOST_TEXTS) return undefined;
  const { codes, dictionary } = column;
  return {
    from: [codes],
    hasRim: false,
    levels: () => [
      {
        places: new RowPlaces(codes.length, dictionary.length + 1, (places, from, to) => {
          for (let row = from; row < to; row++) places[row] = (codes[row] as number) + 1;
        }),
        cover: (state) => {
          const isKeys = Object.entries(state).every(([part, value]) => part === "keys" || value === undefined);
          const held = isKeys && state.keys ? textsHeld(state.keys, plan, columns) : undefined;
          return (
            (held &&
              held.codes === codes && {
                parts: held.wanted.map((wanted) => (wanted ? WHOLE : OUT)),
                columns: [],
                holds: () => false,
              }) ||
            undefined
          );
        },
      },
    ],
  };
});
