import { mapStage, scaleBar } from "../../core/chart/map-stage";
import { MAPS } from "../../core/chart/maps";

MAPS.add("map", { stage: mapStage, scaleBar });
