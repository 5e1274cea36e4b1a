import { expect, test } from "vitest";
import { compileText } from "../testing/compile-text";

const SHEET = (rows: string) => `still: 1
report: R
tables:
  ports:
    rows: |
      lon,lat
${rows}
charts:
  map: {from: ports, draw: points, lon: lon, lat: lat, map: {under: [world]}}
`;

/** The places of the world's outlines that a map has under it. */
function outlines(rows: string): { coordinates: [number, number][][] }[] {
  const { tables, findings } = compileText(SHEET(rows));
  expect(findings.filter(({ severity }) => severity === "error")).toEqual([]);
  const [name] = [...tables.keys()].filter((key) => key.startsWith("\u0000world"));
  const place = tables.get(name ?? "")?.columns.get("place");
  if (place?.kind !== "text") throw new Error("no outlines");
  return place.dictionary.map((text) => JSON.parse(text));
}

test("a near map has finer outlines, cut to what can be seen around it", () => {
  const near = outlines("      -6.2,55.1\n      -3.1,58.4");
  const places = near.flatMap(({ coordinates }) => coordinates.flat());
  for (const [lon, lat] of places) {
    expect(lon).toBeGreaterThanOrEqual(-25);
    expect(lon).toBeLessThanOrEqual(16);
    expect(lat).toBeGreaterThanOrEqual(35);
    expect(lat).toBeLessThanOrEqual(79);
  }
  expect(places.length).toBeGreaterThan(2000);
});

test("every outline goes with the clock, its holes against it, and has an inside", () => {
  const area = (ring: [number, number][]) =>
    ring.reduce((sum, [x, y], at) => {
      const [x2, y2] = ring[(at + 1) % ring.length] as [number, number];
      return sum + (x * y2 - x2 * y) / 2;
    }, 0);
  for (const { coordinates } of outlines("      -6.2,55.1\n      12.1,58.4")) {
    const [edge, ...holes] = coordinates.map(area);
    expect(edge).toBeLessThan(0);
    for (const hole of holes) expect(hole).toBeGreaterThan(0);
  }
});

test("a map of the whole earth has all of it, coarse", () => {
  const places = outlines("      -120,40\n      140,-30").flatMap(({ coordinates }) => coordinates.flat());
  expect(Math.min(...places.map(([lon]) => lon))).toBeLessThan(-175);
  expect(places.length).toBeLessThan(8000);
});
