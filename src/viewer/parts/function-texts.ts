import { FUNCTIONS } from "../../core/formula/functions/function";
import { TEXT_FUNCTIONS } from "../../core/formula/functions/texts";

FUNCTIONS.addAll(TEXT_FUNCTIONS);
