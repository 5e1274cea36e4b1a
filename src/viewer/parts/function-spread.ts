import { MEASURES } from "../../core/formula/measures";
import { SPREAD_MEASURES } from "../../core/formula/spread-measures";

MEASURES.addAll(SPREAD_MEASURES);
