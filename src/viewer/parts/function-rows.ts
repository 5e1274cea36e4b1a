import { ROW_FUNCTIONS } from "../../core/formula/functions/function";
import { FUNCTIONS_OVER_ROWS } from "../../core/formula/functions/rows";

ROW_FUNCTIONS.addAll(FUNCTIONS_OVER_ROWS);
