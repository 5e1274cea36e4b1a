import { mapStage, scaleBar } from "./map-stage";
import { MAPS } from "./maps";

/** Maps are there wherever dashboards are made. */
MAPS.add("map", { stage: mapStage, scaleBar });
