import { DRAW_FUNCTIONS } from "../../core/formula/functions/draws";
import { FUNCTIONS } from "../../core/formula/functions/function";

FUNCTIONS.addAll(DRAW_FUNCTIONS);
