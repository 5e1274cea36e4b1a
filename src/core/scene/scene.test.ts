import { describe, expect, test } from "vitest";
import { apart as lightApart } from "./color-distance";
import { contrastOf, luminanceOf } from "./contrast";
import { escapeAttribute, escapeText } from "./escape";
import { linearLight, type Rgb } from "./hexadecimal";
import { cutText, textWidth } from "./text-width";
import { DIVERGING, PALETTES, paintInked, paintOf, palettePaint, RAMP_NAMES, RAMPS, rampColor, TOKENS } from "./theme";

/** Colour as seen with each deficiency at full strength (Machado and others, 2009), in linear light. */
const SIGHTS: Rgb[][] = [
  [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ],
  [
    [0.152286, 1.052583, -0.204868],
    [0.114503, 0.786281, 0.099216],
    [-0.003882, -0.048116, 1.051998],
  ],
  [
    [0.367322, 0.860646, -0.227968],
    [0.280085, 0.672501, 0.047413],
    [-0.01182, 0.04294, 0.968881],
  ],
  [
    [1.255528, -0.076749, -0.178779],
    [-0.078411, 0.930809, 0.147602],
    [0.004733, 0.691367, 0.3039],
  ],
];

function apart(a: string, b: string, sight: Rgb[]): number {
  const seen = (hex: string) => {
    const rgb = linearLight(hex);
    return sight.map((row) => Math.min(1, Math.max(0, row[0] * rgb[0] + row[1] * rgb[1] + row[2] * rgb[2]))) as Rgb;
  };
  return lightApart(seen(a), seen(b));
}

/** Lightness as it is seen, 0 to 1: the L of CIE Lab. */
const lightnessOf = (color: string) => {
  const luminance = luminanceOf(color);
  return luminance > 216 / 24389 ? 1.16 * Math.cbrt(luminance) - 0.16 : (24389 / 2700) * luminance;
};

describe.each(["light", "dark"] as const)("colours on the %s ground", (ground) => {
  const { ground: page, sheet } = TOKENS[ground];
  test("text keeps 4.5 to 1", () => {
    for (const token of ["ink", "quiet", "sea", "brass", "coral", "moss"] as const)
      for (const under of [page, sheet])
        expect(contrastOf(TOKENS[ground][token], under), token).toBeGreaterThanOrEqual(4.5);
  });
  test("words that belong to marks keep 4.5 to 1, and stay as near to their colour as they can", () => {
    for (const name of ["quay", "wharf"] as const)
      PALETTES[name][ground].forEach((color, place) => {
        const words = paintOf(paintInked(palettePaint(name, place)), ground);
        expect(contrastOf(words, page), color).toBeGreaterThanOrEqual(4.5);
        if (contrastOf(color, page) >= 4.5) expect(words).toBe(color);
      });
    expect(contrastOf(paintOf(paintInked("#ffffff"), "light"), TOKENS.light.ground)).toBeGreaterThanOrEqual(4.5);
  });
  test("marks keep 3 to 1", () => {
    for (const name of ["quay", "wharf"] as const)
      for (const color of PALETTES[name][ground])
        for (const under of [page, sheet]) expect(contrastOf(color, under), color).toBeGreaterThanOrEqual(2.95);
  });
  test.each([
    ["quay", 0.085],
    ["wharf", 0.07],
  ] as const)("no two of %s are alike for anyone", (name, least) => {
    const colors = PALETTES[name][ground];
    for (const [place, a] of colors.entries())
      for (const b of colors.slice(place + 1))
        for (const [sight, matrix] of SIGHTS.entries())
          expect(apart(a, b, matrix), `${a} ${b} sight ${sight}`).toBeGreaterThanOrEqual(least);
  });
  test("nine categories hold no two colours that are nearly one", () => {
    const colors = PALETTES.wharf[ground].slice(0, 9);
    for (const [place, a] of colors.entries())
      for (const b of colors.slice(place + 1))
        expect(apart(a, b, SIGHTS[0] as Rgb[]), `${a} ${b}`).toBeGreaterThanOrEqual(0.1);
  });
  test("a ramp goes one way in lightness, one of two ways as evenly on both sides", () => {
    for (const name of RAMP_NAMES) {
      const part = DIVERGING.includes(name) ? 2 : 1;
      const lightness = Array.from({ length: 21 }, (_, i) => lightnessOf(rampColor(name, i / 20, ground)));
      const steps = lightness.slice(1).map((value, i) => value - (lightness[i] as number));
      const half = steps.slice(0, 20 / part);
      expect(new Set(half.map(Math.sign)).size, name).toBe(1);
      expect(Math.abs(Math.max(...half) / Math.min(...half)), name).toBeGreaterThan(0.1);
      if (part === 1) continue;
      expect(new Set(steps.slice(10).map(Math.sign)), name).toEqual(new Set([-Math.sign(steps[0] as number)]));
      expect(Math.abs((lightness[0] as number) - (lightness[20] as number)), name).toBeLessThan(0.12);
    }
  });
});

describe("paint", () => {
  test("palettes begin again past their end", () => expect(palettePaint("quay", 9)).toBe("quay:1"));
  test("only colours come out", () => {
    for (const paint of ["ink", "quay:3", "kelp:0.5", "#123456", "nonsense", "quay:99", "url(x)"])
      expect(paintOf(paint, "light")).toMatch(/^#[0-9a-f]{6}$/i);
    expect(Object.keys(RAMPS)).toContain("kelp");
  });
});

describe("words", () => {
  test("are escaped by where they go", () => {
    expect(escapeText('<a href="x">&')).toBe('&lt;a href="x"&gt;&amp;');
    expect(escapeAttribute("\"'<>&")).toBe("&quot;&#39;&lt;&gt;&amp;");
  });
  test("have a width, figures all the same", () => {
    expect(textWidth("111", 12)).toBeCloseTo(textWidth("888", 12), 6);
    expect(textWidth("Wide", 24)).toBeCloseTo(textWidth("Wide", 12) * 2, 6);
    expect(textWidth("漢", 10)).toBe(10);
  });
  test("are cut to a width with an ellipsis", () => {
    const cut = cutText("a very long name of a berth", 60, 12);
    expect(cut.endsWith("…")).toBe(true);
    expect(textWidth(cut, 12)).toBeLessThanOrEqual(60);
    expect(cutText("short", 60, 12)).toBe("short");
  });
});
