import { categoriesOf } from "../../query/categories";
import { contrastOf } from "../../scene/contrast";
import { PALETTES, TOKENS } from "../../scene/theme";
import { type Advice, counted, firstOf, isText } from "./chart-view";

const MOST_SLICES = 7;
const MOST_COLORS = PALETTES.wharf.light.length;
/** Least contrast of marks with their ground. */
const LEAST_CONTRAST = 2;

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
