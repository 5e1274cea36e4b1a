import { LOOPS } from "../../core/formula/arithmetic";
import { FUNCTIONS } from "../../core/formula/functions/function";
import { NUMBER_FUNCTIONS, raise } from "../../core/formula/functions/numbers";

FUNCTIONS.addAll(NUMBER_FUNCTIONS);
LOOPS.add("^", raise);
