import { describe, expect, test } from "vitest";
import { contrastOf, luminanceOf } from "./contrast";
import { escapeAttribute, escapeText } from "./escape";
import { cutText, textWidth } from "./text-width";
import { DIVERGING, PALETTES, paintOf, palettePaint, RAMP_NAMES, RAMPS, rampColor, TOKENS } from "./theme";

type Rgb = [number, number, number];
const channel = (hex: string, at: number) => Number.parseInt(hex.slice(at, at + 2), 16) / 255;
const linear = (hex: string): Rgb =>
  [1, 3, 5].map((at) =>
    channel(hex, at) <= 0.04045 ? channel(hex, at) / 12.92 : ((channel(hex, at) + 0.055) / 1.055) ** 2.4,
  ) as Rgb;
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

/** Lightness and two opponent axes by which distances are about even (B. Ottosson, 2020). */
function oklab([r, g, b]: Rgb): Rgb {
  const l = Math.cbrt(Math.max(0, 0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b));
  const m = Math.cbrt(Math.max(0, 0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b));
  const s = Math.cbrt(Math.max(0, 0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b));
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

function apart(a: string, b: string, sight: Rgb[]): number {
  const seen = (hex: string) => {
    const rgb = linear(hex);
    return oklab(
      sight.map((row) => Math.min(1, Math.max(0, row[0] * rgb[0] + row[1] * rgb[1] + row[2] * rgb[2]))) as Rgb,
    );
  };
  const [x, y] = [seen(a), seen(b)];
  return Math.hypot(x[0] - y[0], x[1] - y[1], x[2] - y[2]);
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
