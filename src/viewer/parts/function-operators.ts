import { OPERATORS } from "../../core/formula/operator";
import { ALL_OPERATORS } from "../../core/formula/operators";

OPERATORS.addAll(ALL_OPERATORS);
