import type { NumberMarks } from "../formula/number-format";
import type { StylePlan } from "../plan/plan";
import { contrastOf } from "../scene/contrast";
import { type Ground, palettePaint, TOKENS } from "../scene/theme";
import type { StyleSpec } from "../sheet/schema-pages";
import { addFinding, type Compiling } from "./compiling";

/** Marks need at least this contrast to the ground (WCAG 2.2, 1.4.11). */
const LEAST_CONTRAST = 3;

/** The style as the dashboard needs it. */
export function readStyle(compiling: Compiling): StylePlan {
  const { style } = compiling.sheet;
  const ground = style.ground ?? "light";
  checkContrast(compiling, style, ground === "auto" ? ["light", "dark"] : [ground]);
  const { accent, palette, fade } = style;
  if (fade !== undefined && !(fade >= 0 && fade <= 1))
    addFinding(compiling, ["style", "fade"], "wrong-value", `fade: is a part from 0 to 1, not ${fade}`);
  const numbers = readMarks(compiling, style);
  return {
    ground,
    type: style.type ?? "packed",
    ...(accent === undefined ? {} : { accent }),
    ...(palette === undefined || palette === "quay" ? {} : { plain: paintAt(palette, 0), second: paintAt(palette, 1) }),
    ...(numbers ? { numbers } : {}),
    ...(fade === undefined ? {} : { fade }),
    ...(style.pictures === "outside" ? { pictures: "outside" as const } : {}),
  };
}

/** The paint of a place in the house's palette; one that is shorter begins again. */
const paintAt = (palette: NonNullable<StyleSpec["palette"]>, place: number) =>
  Array.isArray(palette) ? (palette[place % palette.length] as string) : palettePaint(palette, place);

function readMarks(compiling: Compiling, { numbers }: StyleSpec): NumberMarks | undefined {
  if (!numbers) return undefined;
  const decimal = numbers.decimal || ".";
  const thousands = numbers.thousands ?? (decimal === "," ? "." : ",");
  if (decimal !== thousands) return { decimal, thousands };
  addFinding(
    compiling,
    ["style", "numbers"],
    "wrong-value",
    `decimal and thousands marks are both "${decimal}"; nobody could tell them apart`,
  );
  return undefined;
}

/** Says which colours of the house can hardly be seen on the ground. */
function checkContrast(compiling: Compiling, { accent, palette }: StyleSpec, grounds: readonly Ground[]) {
  const check = (color: string, path: (string | number)[]) => {
    for (const ground of grounds) {
      const ratio = contrastOf(color, TOKENS[ground].ground);
      if (ratio >= LEAST_CONTRAST) continue;
      // Cut down, not rounded: 2.97 would read as enough.
      const found = (Math.floor(ratio * 10) / 10).toFixed(1);
      const message = `${color} stands out from the ${ground} ground by ${found} : 1 only; marks need ${LEAST_CONTRAST} : 1`;
      addFinding(compiling, path, "low-contrast", message, { severity: "warning" });
    }
  };
  if (accent !== undefined) check(accent, ["style", "accent"]);
  if (Array.isArray(palette)) for (const [at, color] of palette.entries()) check(color, ["style", "palette", at]);
}
