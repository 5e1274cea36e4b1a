import type { Stage } from "../mark/mark";
import { categoryText } from "../query/write";
import type { Box } from "../scene/scene";
import { cutText } from "../scene/text-width";
import type { AxisInk } from "./axis-lines";
import { channelOn } from "./categories";
import type { ChartInput } from "./inputs";
import type { PanelPlace } from "./panels";
import { TEXT } from "./tick-words";

/** A panel before its layers are drawn: what each layer stands on, by its place. */
export interface PanelStage {
  stage: Stage;
  /** Of those layers that do not stand on the panel's own stage. */
  others: ReadonlyMap<number, Stage>;
  names: PanelPlace["names"];
}

/** Which values a small chart is of, over its plot. */
export function nameOver(ink: AxisInk, plot: Box, input: ChartInput, names: PanelPlace["names"]) {
  const text = Object.entries(names)
    .map(([channel, name]) => categoryText(name, channelOn(input, channel)))
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
