import { logScale } from "../../core/scale/log-scale";
import { UNEVEN_SCALES } from "../../core/scale/scales";

UNEVEN_SCALES.add("log", logScale);
