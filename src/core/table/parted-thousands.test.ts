import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { partedThousands } from "./parted-thousands";

const read = (texts: readonly string[]) =>
  Float64Array.from(texts, (text) => (text === "" ? Number.NaN : Number(text)));

describe("decimals that look like thousands", () => {
  const amount = fc.integer({ min: 100, max: 99_999 });
  test("are found in amounts whose thousands are parted by the mark of decimals", () => {
    fc.assert(
      fc.property(fc.array(amount, { minLength: 40, maxLength: 60 }), (amounts) => {
        // Some below a thousand, some above it whose last digit is no zero.
        const all = [...amounts, 120, 450, 901, 77, 1001, 2003, 40_009, 5555, 6161, 7273];
        const parted = all.map((value) =>
          value < 1000 ? String(value) : `${Math.floor(value / 1000)}.${String(value % 1000).padStart(3, "0")}`,
        );
        const below = all.filter((value) => value < 1000).length;
        fc.pre(below >= all.length * 0.05 && all.filter((value) => value % 10 === 0 && value >= 1000).length < 10);
        expect(partedThousands(read(["", ...parted]))).toBeGreaterThan(1);
      }),
    );
  });
  test.each([
    ["measured with three decimals", ["0.125", "1.467", "2.25", "3.125", "4.001", "5.322", "6.111", "7.002", "8"]],
    ["measured with three decimals, none below one", Array.from({ length: 50 }, (_, at) => `${at + 1}.${at + 101}`)],
    ["quarters beside whole numbers", ["1", "2", "3", "1.25", "2.5", "3.75", "4.25", "5.5", "6.125", "7.5"]],
    ["whole numbers", ["1", "20", "901", "5", "6", "7", "8", "9"]],
    ["amounts above a thousand among them", ["1.467", "1.468", "1.469", "2.111", "3.222", "4.333", "901", "1200"]],
  ])("are not seen in values %s", (_, texts) => {
    expect(partedThousands(read(texts))).toBe(undefined);
  });
});
