import { Kit } from "../finding/kit";
import type { MapProjector } from "../mark/mark";
import type { Box, SceneLine, SceneText } from "../scene/scene";
import type { ChartInput } from "./inputs";

/** What maps need beside marks; a report without maps does without it. */
export interface MapKit {
  stage(input: ChartInput, plot: Box): MapProjector;
  scaleBar(project: MapProjector, plot: Box): { line: SceneLine; text: SceneText } | undefined;
}

export const MAPS = new Kit<MapKit>("map");
