import fc from "fast-check";
import { expect, test } from "vitest";
import { laidOut } from "./laid-out";

test("rows are laid out by their keys, each in the order asked for, those without a key nowhere", () => {
  const drawn = fc
    .array(fc.integer({ min: -1, max: 4 }), { maxLength: 30 })
    .chain((keys) =>
      fc.tuple(
        fc.constant(keys),
        fc.option(fc.shuffledSubarray([...keys.keys()], { minLength: keys.length, maxLength: keys.length })),
      ),
    );
  fc.assert(
    fc.property(drawn, ([keys, order]) => {
      const { rows, starts } = laidOut(Int32Array.from(keys), 5, order ? Int32Array.from(order) : undefined);
      const turns = order ?? [...keys.keys()];
      for (let key = 0; key < 5; key++)
        expect([...rows.subarray(starts[key], starts[key + 1])]).toEqual(turns.filter((row) => keys[row] === key));
      expect(rows.length).toBe(keys.filter((key) => key >= 0).length);
    }),
  );
});
