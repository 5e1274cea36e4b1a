import { bentScale } from "../../core/scale/bent-scale";
import { UNEVEN_SCALES } from "../../core/scale/scales";

UNEVEN_SCALES.addAll({ sqrt: bentScale, symlog: bentScale });
