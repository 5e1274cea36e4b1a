import type { Stage } from "../mark/mark";
import { MISSING_NAME } from "../query/categories";
import type { Box } from "../scene/scene";
import { cutText } from "../scene/text-width";
import { type AxisInk, TEXT } from "./axis-lines";
import type { PanelPlace } from "./panels";

/** A panel before its layers are drawn: what each layer stands on, by its place. */
export interface PanelStage {
  stage: Stage;
  /** Of those layers that do not stand on the panel's own stage. */
  others: ReadonlyMap<number, Stage>;
  names: PanelPlace["names"];
}

/** Which values a small chart is of, over its plot. */
export function nameOver(ink: AxisInk, plot: Box, names: PanelPlace["names"]) {
  const text = Object.values(names)
    .map((name) => name ?? MISSING_NAME)
    .join(" · ");
  ink.texts.push({
    x: plot.x,
    y: plot.y - 6,
    text: cutText(text, plot.width, TEXT),
    size: TEXT,
    paint: "ink",
    bold: true,
  });
}
