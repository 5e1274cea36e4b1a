import { FUNCTIONS } from "../../core/formula/functions/function";
import { INTERVAL_FUNCTIONS } from "../../core/formula/functions/intervals";

FUNCTIONS.addAll(INTERVAL_FUNCTIONS);
