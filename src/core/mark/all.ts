import { SHADED } from "../scene/shapes/discs";
import { shadedSvg } from "../scene/shapes/shaded";
import { areaDraw } from "./area";
import { barsDraw } from "./bars";
import { boxesDraw } from "./boxes";
import { bubblesDraw } from "./bubbles";
import { densityDraw } from "./density";
import { MARKS } from "./draws";
import { heatmapDraw } from "./heatmap";
import { labelsDraw } from "./labels";
import { lineDraw } from "./line";
import type { MarkDraw } from "./mark";
import { MARK_WORDS } from "./mark-words";
import { pointsDraw } from "./points";
import { regionsDraw } from "./regions";
import { rulesDraw } from "./rules";
import { slicesDraw } from "./slices";
import { smoothDraw } from "./smooth";
import type { MarkName } from "./specs";
import { trackDraw } from "./track";
import { trendDraw } from "./trend";
import { wordsDraw } from "./words";
import { writeAtMarks } from "./words-at";

const ALL: Readonly<Record<MarkName, MarkDraw>> = {
  points: pointsDraw,
  bars: barsDraw,
  line: lineDraw,
  area: areaDraw,
  rules: rulesDraw,
  labels: labelsDraw,
  track: trackDraw,
  heatmap: heatmapDraw,
  boxes: boxesDraw,
  slices: slicesDraw,
  bubbles: bubblesDraw,
  words: wordsDraw,
  smooth: smoothDraw,
  trend: trendDraw,
  density: densityDraw,
  regions: regionsDraw,
};

/** All marks, and what they are drawn with, are there wherever dashboards are made. */
for (const [name, draw] of Object.entries(ALL)) MARKS.add(name, draw);
MARK_WORDS.add(writeAtMarks);
SHADED.add(shadedSvg);
