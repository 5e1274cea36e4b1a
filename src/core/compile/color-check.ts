import type { LayerPlan } from "../chart/plan";
import { DIVERGING, PALETTE_NAMES, RAMP_NAMES } from "../scene/theme";
import type { ChartSpec } from "../sheet/schema-charts";
import { type Place, wrongAt } from "./piece-place";

/** Numbers take ramps, categories take palettes: false where a chart asks for the other. */
export function checkColors(place: Place, { colors, middle }: ChartSpec, layers: readonly LayerPlan[]): boolean {
  const channel = layers.map(({ query }) => query.channels.color).find((found) => found !== undefined);
  const wrong = (key: "colors" | "middle", problem: string) => {
    wrongAt(place, [...place.path, key], "wrong-key", problem);
    return false;
  };
  // A column that readers choose may be one or the other.
  if (channel?.choices || (colors === undefined && middle === undefined)) return true;
  const isCategory = !channel || channel.kind === "text" || channel.kind === "boolean";
  if (isCategory)
    return (
      middle === undefined || wrong("middle", "middle: goes with a color: of numbers or dates, which makes a ramp")
    );
  if (typeof colors === "string" && PALETTE_NAMES.some((name) => name === colors))
    return wrong(
      "colors",
      `${colors} is a palette for categories; ${channel.text} takes a ramp: ${RAMP_NAMES.join(", ")}`,
    );
  if (typeof colors === "object" && !Array.isArray(colors))
    return wrong(
      "colors",
      `single values have no colours of their own on a ramp; write ${DIVERGING.join(" or ")}, or a list`,
    );
  return true;
}
