import { drawMap } from "../../core/chart/map";
import { MAPS } from "../../core/chart/maps";

MAPS.add(drawMap);
