import { drawMap } from "./map";
import { MAPS } from "./maps";
import { firstNow, withTop } from "./top";
import { TOPS } from "./tops";

/** Maps and choices of first categories are there wherever dashboards are made. */
MAPS.add(drawMap);
TOPS.add({ firstNow, withTop });
