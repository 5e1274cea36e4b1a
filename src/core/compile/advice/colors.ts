import { categoriesOf } from "../../query/categories";
import { apart } from "../../scene/color-distance";
import { contrastOf } from "../../scene/contrast";
import { linearLight, type Rgb } from "../../scene/hexadecimal";
import type { Paint } from "../../scene/shapes/shape";
import { type Ground, PALETTES, paintOf, TOKENS } from "../../scene/theme";
import { type Advice, counted, firstOf, isText } from "./chart-view";

const MOST_SLICES = 7;
const MOST_COLORS = PALETTES.wharf.light.length;
/** Least contrast of marks with their ground. */
const LEAST_CONTRAST = 2;
/** No two colours of the palettes lie nearer to one another. */
const LEAST_APART = 0.07;
/** Of so many colours each is compared with all others. */
const MOST_COMPARED = 24;

export const slices: Advice = {
  code: "many-slices",
  find({ plan, values }) {
    const layer = plan.layers.find(({ draw }) => draw === "slices");
    const color = layer?.query.channels.color;
    const column = isText(color) ? values(color) : undefined;
    const count = column && color ? counted(color, column) : 0;
    if (count <= MOST_SLICES || plan.top) return undefined;
    return {
      message: `${count} slices can hardly be compared; up to ${MOST_SLICES} can, and bars that lie down can all`,
    };
  },
};

export const colors: Advice = {
  code: "many-colors",
  find({ plan, spec, values }) {
    const color = firstOf(plan, "color");
    const column = isText(color) && !color.choices ? values(color) : undefined;
    if (!column || !color) return undefined;
    const count = counted(color, column);
    const listed = Array.isArray(spec.colors) ? spec.colors.length : MOST_COLORS;
    if (count <= listed || (spec.colors !== undefined && !Array.isArray(spec.colors))) return undefined;
    const which = Array.isArray(spec.colors) ? `the list has ${listed}` : `the palette has ${listed}`;
    const again = categoriesOf(column, color.order).slice(listed);
    return {
      message: `${count} values of ${color.label} want as many colours; ${which}, and they begin again`,
      marks: { channels: ["color"], values: again.map(({ name }) => [name]) },
    };
  },
};

export const faint: Advice = {
  code: "faint-colors",
  find({ compiling, spec }) {
    const given = spec.colors && typeof spec.colors === "object" ? Object.entries(spec.colors) : [];
    const isNamed = !Array.isArray(spec.colors);
    const { ground = "light" } = compiling.sheet.style;
    const grounds = ground === "auto" ? (["light", "dark"] as const) : [ground];
    for (const [name, color] of given)
      for (const one of grounds) {
        if (!/^#[0-9a-f]{6}$/i.test(color)) continue;
        const contrast = contrastOf(color, TOKENS[one].ground);
        if (contrast >= LEAST_CONTRAST) continue;
        const message = `${color} stands out from the ${one} ground by ${contrast.toFixed(1)} to 1 only; marks want 3 to 1`;
        return { at: ["colors"], message, ...(isNamed ? { marks: { channels: ["color"], values: [[name]] } } : {}) };
      }
    return undefined;
  },
};

/** Colours as they are seen, in linear light. */
const seen = (paints: readonly Paint[], ground: Ground): Rgb[] =>
  paints.map((paint) => linearLight(paintOf(paint, ground)));

/** A colour of the palette that none of some paints is near to. */
function farFrom(paints: readonly Paint[], ground: Ground): string | undefined {
  const known = seen(paints, ground);
  return PALETTES.wharf[ground].find((color) =>
    known.every((other) => apart(linearLight(color), other) >= LEAST_APART),
  );
}

export const alike: Advice = {
  code: "colors-alike",
  find({ compiling, spec, plan, colorsOf }) {
    const channel = firstOf(plan, "color");
    const scale = channel && colorsOf(channel);
    if (scale?.type !== "categories" || scale.literal || scale.paints.length > MOST_COMPARED) return undefined;
    const { names, paints } = scale;
    const isSaid = (at: number) => (paints[at] as Paint).startsWith("#");
    const { ground = "light" } = compiling.sheet.style;
    for (const one of ground === "auto" ? (["light", "dark"] as const) : [ground]) {
      const known = seen(paints, one);
      for (let a = 0; a < known.length; a++)
        for (let b = a + 1; b < known.length; b++) {
          // The palette's own are far enough from one another; the same one twice is meant, or told otherwise.
          if ((!isSaid(a) && !isSaid(b)) || paints[a] === paints[b]) continue;
          if (names[a] === null || names[b] === null || apart(known[a] as Rgb, known[b] as Rgb) >= LEAST_APART)
            continue;
          const [first, second] = [a, b].map((at) => `${names[at]} (${paintOf(paints[at] as Paint, one)})`);
          const other = farFrom(paints, one);
          const instead = other ? `; "${other}" is far from all of them` : "";
          return {
            ...(spec.colors === undefined ? {} : { at: ["colors"] }),
            message: `the colours of ${first} and ${second} can hardly be told apart on the ${one} ground${instead}`,
            marks: { channels: ["color"], values: [[names[a] ?? null], [names[b] ?? null]] },
          };
        }
    }
    return undefined;
  },
};
