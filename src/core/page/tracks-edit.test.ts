import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { readTracks } from "./page";
import { resizedTracks } from "./tracks-edit";

describe("the line behind a track is moved", () => {
  test.each<[string, string[], number[], number, number, string[]]>([
    ["two that share the room", ["1fr", "1fr"], [400, 400], 0, 200, ["1.5fr", "0.5fr"]],
    ["of unlike parts", ["2fr", "1fr", "1fr"], [400, 200, 200], 0, -100, ["1.5fr", "1.5fr", "1fr"]],
    ["measured a moment ago", ["1.5fr", "0.5fr"], [400, 400], 0, 40, ["1.6fr", "0.4fr"]],
    ["one in pixels beside parts", ["200px", "1fr"], [200, 600], 0, 40, ["240px", "1fr"]],
    ["parts beside one in pixels", ["1fr", "200px"], [600, 200], 0, 40, ["1fr", "160px"]],
    ["one as large as it needs", ["auto", "320px"], [90, 320], 0, 12, ["102px", "320px"]],
    ["the last of a page that grows", ["96px", "320px"], [96, 320], 1, 80, ["96px", "400px"]],
    ["the last where all share", ["1fr", "1fr"], [300, 300], 1, 80, ["1fr", "1fr"]],
    ["to nothing", ["1fr", "1fr"], [400, 400], 0, -900, ["0.05fr", "1.95fr"]],
    ["pixels to nothing", ["200px", "1fr"], [200, 600], 0, -900, ["24px", "1fr"]],
  ])("%s", (_, sizes, pixels, at, by, expected) => {
    expect(resizedTracks(sizes, pixels, at, by)).toEqual(expected);
  });
  test("all others stay, parts add up to what they were, and every size is one that a sheet takes", () => {
    const size = fc.oneof(
      fc.integer({ min: 1, max: 12 }).map((parts) => `${parts}fr`),
      fc.integer({ min: 24, max: 900 }).map((pixels) => `${pixels}px`),
      fc.constant("auto"),
    );
    fc.assert(
      fc.property(
        fc.array(fc.tuple(size, fc.integer({ min: 0, max: 900 })), { minLength: 1, maxLength: 6 }),
        fc.nat(5),
        fc.integer({ min: -1000, max: 1000 }),
        (tracks, at, by) => {
          const sizes = tracks.map(([own]) => own);
          const next = resizedTracks(
            sizes,
            tracks.map(([, own]) => own),
            at,
            by,
          );
          expect(readTracks(next.join(" "))).toEqual({ tracks: next });
          next.forEach((own, place) => {
            if (place !== at && place !== at + 1) expect(own).toBe(sizes[place]);
          });
          const parts = (list: readonly string[]) =>
            list.reduce((sum, own) => sum + (own.endsWith("fr") ? Number.parseFloat(own) : 0), 0);
          expect(parts(next)).toBeCloseTo(parts(sizes), 6);
        },
      ),
    );
  });
});
