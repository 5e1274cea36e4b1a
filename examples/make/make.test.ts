import { describe, expect, test } from "vitest";
import { callLines } from "./calls";
import { berthLines, coastGeoJson, surveyGpx, throughputLines, tideLines } from "./others";
import { Random } from "./random";

describe("the demo data", () => {
  const lines = [...callLines(12_000, 5)];
  test("are the same from the same seed, and others from another", () => {
    expect([...callLines(200, 5)]).toEqual([...callLines(200, 5)]);
    expect([...callLines(200, 5)]).not.toEqual([...callLines(200, 6)]);
    expect(tideLines()).toEqual(tideLines());
    expect(surveyGpx() === surveyGpx()).toBe(true);
    expect(coastGeoJson()).toBe(coastGeoJson());
  });
  test("have the flaws that such lists have", () => {
    const ids = lines.slice(1).map((line) => line.split(",")[0]);
    expect(ids.length).toBeGreaterThan(new Set(ids).size);
    expect(lines.some((line) => /,\d+\. \d+\. \d{4},/.test(line))).toBe(true);
    expect(lines.some((line) => /,n\/a,/.test(line))).toBe(true);
    expect(lines.some((line) => line.includes('""'))).toBe(true);
    expect(lines.some((line) => /,,/.test(line))).toBe(true);
  });
  test("stand in the order of arrival and name known berths", () => {
    const berths = new Set(
      berthLines()
        .slice(1)
        .map((line) => line.split(",")[1]),
    );
    for (const line of lines.slice(1, 50)) expect(berths.has(line.split(",")[2])).toBe(true);
  });
  test("have the shapes that their readers expect", () => {
    const [heads, ...rows] = throughputLines();
    expect(heads?.split(",")).toHaveLength(37);
    for (const row of rows) expect(row.split(",")).toHaveLength(37);
    expect(tideLines()).toHaveLength(8761);
    expect(JSON.parse(coastGeoJson())).toMatchObject({ type: "FeatureCollection" });
    expect(surveyGpx().match(/<trkpt /g)).toHaveLength(1800);
  });
});

describe("the random stream", () => {
  test("lies in its range, evenly enough", () => {
    const random = new Random(3);
    const draws = Array.from({ length: 20_000 }, () => random.next());
    expect(Math.min(...draws)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...draws)).toBeLessThan(1);
    const tenths = Array.from(
      { length: 10 },
      (_, tenth) => draws.filter((value) => Math.floor(value * 10) === tenth).length,
    );
    for (const count of tenths) expect(Math.abs(count - 2000)).toBeLessThan(200);
  });
  test("picks by weight", () => {
    const random = new Random(9);
    const picks = Array.from({ length: 4000 }, () =>
      random.weighted([
        ["a", 3],
        ["b", 1],
      ] as const),
    );
    expect(Math.abs(picks.filter((pick) => pick === "a").length - 3000)).toBeLessThan(150);
  });
});
