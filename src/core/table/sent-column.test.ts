import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type Column, textColumn } from "./column";
import { receivedColumn, sentColumn } from "./sent-column";

const through = (column: Column) => receivedColumn(structuredClone(sentColumn(column)));

describe("a column that is sent from thread to thread", () => {
  test("comes with the same texts, whatever they are", () => {
    const texts = fc.array(fc.option(fc.string({ unit: "binary" }), { nil: null }));
    fc.assert(
      fc.property(texts, fc.boolean(), (own, ordered) => {
        const column = { ...textColumn(own, own.length), ...(ordered ? { ordered } : {}) };
        expect(through(column)).toEqual(column);
      }),
    );
  });
  test("comes with the same numbers", () => {
    const column: Column = { kind: "date", values: Float64Array.of(0, Number.NaN, 86400) };
    expect(through(column)).toEqual(column);
  });
  test("has its texts sent as one", () => {
    const sent = sentColumn(textColumn(["Salt Steps", null, "", "Granary"], 4));
    expect(sent).toMatchObject({ joined: "Salt StepsGranary", ends: Int32Array.of(10, 10, 17) });
    expect("dictionary" in sent).toBe(false);
  });
});
