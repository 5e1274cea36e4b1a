import { bentScale } from "./bent-scale";
import { logScale } from "./log-scale";
import { UNEVEN_SCALES } from "./scales";

/** All scales are there wherever dashboards are made. */
UNEVEN_SCALES.addAll({ log: logScale, sqrt: bentScale, symlog: bentScale });
