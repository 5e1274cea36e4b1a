import { LOOPS, PLAIN_LOOPS } from "../../core/formula/arithmetic";
import { OPERATORS } from "../../core/formula/operator";
import { ALL_OPERATORS } from "../../core/formula/operators";

OPERATORS.addAll(ALL_OPERATORS);
LOOPS.addAll(PLAIN_LOOPS);
