import { areaSpec } from "./area";
import { barsSpec } from "./bars";
import { boxesSpec } from "./boxes";
import { bubblesSpec } from "./bubbles";
import { densitySpec } from "./density";
import { heatmapSpec } from "./heatmap";
import { labelsSpec } from "./labels";
import { lineSpec } from "./line";
import type { MarkSpec, OptionSpec } from "./mark";
import { pointsSpec } from "./points";
import { regionsSpec } from "./regions";
import { rulesSpec } from "./rules";
import { slicesSpec } from "./slices";
import { smoothSpec } from "./smooth";
import { trackSpec } from "./track";
import { trendSpec } from "./trend";
import { wordsSpec } from "./words";

/** All marks, as the language names them: from here come schema, reference and completion. */
const SPECS = [
  pointsSpec,
  barsSpec,
  lineSpec,
  areaSpec,
  rulesSpec,
  labelsSpec,
  trackSpec,
  heatmapSpec,
  boxesSpec,
  slicesSpec,
  bubblesSpec,
  wordsSpec,
  smoothSpec,
  trendSpec,
  densitySpec,
  regionsSpec,
] as const;

export type MarkName = (typeof SPECS)[number]["name"];

const ALL: readonly MarkSpec[] = SPECS;

export const MARK_NAMES = SPECS.map(({ name }) => name);

export const markSpec = (name: MarkName): MarkSpec => ALL.find((spec) => spec.name === name) as MarkSpec;

/** Numbers, switches and words that only some marks take, by their keys; of one key all marks say the same. */
export const MARK_OPTIONS: Readonly<Record<string, OptionSpec>> = Object.assign(
  {},
  ...ALL.map(({ options = {} }) => options),
);
