import { mapStage, scaleBar } from "./map-stage";
import { MAPS } from "./maps";
import { firstNow, withTop } from "./top";
import { TOPS } from "./tops";

/** Maps and choices of first categories are there wherever dashboards are made. */
MAPS.add("map", { stage: mapStage, scaleBar });
TOPS.add("first", { firstNow, withTop });
