import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { bendsOf } from "./stack-bends";

/** Areas as lists of [place, from, to]. */
const edges = (areas: readonly (readonly [number, number, number])[][]) => {
  const all = areas.flat();
  const starts = [0];
  for (const area of areas) starts.push((starts.at(-1) ?? 0) + area.length);
  return {
    along: Float64Array.from(all, ([place]) => place),
    from: Float64Array.from(all, ([, from]) => from),
    to: Float64Array.from(all, ([, , to]) => to),
    starts: Int32Array.from(starts),
  };
};

const told = (areas: Parameters<typeof edges>[0]) => {
  const bent = bendsOf(edges(areas));
  if (!bent) return undefined;
  return Array.from({ length: bent.starts.length - 1 }, (_, area) =>
    Array.from(bent.along.subarray(bent.starts[area], bent.starts[area + 1]), (place, at) => {
      const i = (bent.starts[area] as number) + at;
      return [place, bent.from[i], bent.to[i]];
    }),
  );
};

describe("areas on one another", () => {
  test("lie on what is below them where one has no value", () => {
    const low = [
      [0, 0, 10],
      [1, 0, 10],
      [2, 0, 10],
    ] as const;
    const middle = [
      [0, 10, 15],
      [2, 10, 15],
    ] as const;
    const high = [
      [0, 15, 20],
      [1, 10, 20],
      [2, 15, 20],
    ] as const;
    expect(told([[...low], [...middle], [...high]])).toEqual([
      low,
      [
        [0, 10, 15],
        [1, 10, 10],
        [2, 10, 15],
      ],
      high,
    ]);
  });
  test("begin where the next one above begins, of a stream that lies about its middle", () => {
    const bent = told([
      [
        [0, -4, 0],
        [2, -4, 0],
      ],
      [
        [0, 0, 4],
        [1, -3, 3],
        [2, 0, 4],
      ],
    ]);
    expect(bent?.[0]?.[1]).toEqual([1, -3, -3]);
  });
  test.each([
    ["nothing is wanted", [[[0, 0, 1]], [[0, 1, 2]]]],
    ["there is one alone", [[[0, 0, 1]]]],
    [
      "a value is missing",
      [
        [[0, 0, Number.NaN]],
        [
          [0, 0, 1],
          [1, 0, 1],
        ],
      ],
    ],
    [
      "they go both ways",
      [
        [[0, 0, -1]],
        [
          [0, 0, 1],
          [1, 0, 1],
        ],
      ],
    ],
    [
      "one has two values at a place",
      [
        [
          [0, 0, 1],
          [0, 0, 1],
        ],
        [[1, 0, 1]],
      ],
    ],
  ] as [string, [number, number, number][][]][])("are as they are where %s", (_, areas) => {
    expect(told(areas)).toBeUndefined();
  });
  test("leave no room between them at any place", () => {
    const heights = fc.array(fc.array(fc.option(fc.integer({ min: 1, max: 9 })), { minLength: 5, maxLength: 5 }), {
      minLength: 2,
      maxLength: 5,
    });
    fc.assert(
      fc.property(heights, (rows) => {
        const tops = [0, 0, 0, 0, 0];
        const areas = rows.map((row) =>
          row.flatMap((height, place): [number, number, number][] => {
            if (height === null) return [];
            const base = tops[place] as number;
            tops[place] = base + height;
            return [[place, base, base + height]];
          }),
        );
        const bent = told(areas);
        if (!bent) return;
        const places = new Set(areas.flat().map(([place]) => place));
        for (const area of bent) expect(area.map(([place]) => place)).toEqual([...places].sort());
        for (let above = 1; above < bent.length; above++)
          for (const [at, [, from]] of (bent[above] ?? []).entries()) expect(from).toBe(bent[above - 1]?.[at]?.[2]);
      }),
    );
  });
});
