import { COMMON_FUNCTIONS } from "../../core/formula/functions/common";
import { FUNCTIONS } from "../../core/formula/functions/function";

FUNCTIONS.addAll(COMMON_FUNCTIONS);
