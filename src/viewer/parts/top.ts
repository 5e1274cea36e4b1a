import { firstNow, withTop } from "../../core/chart/top";
import { TOPS } from "../../core/chart/tops";
// What comes first is told by formulas that no sheet has.
import "./function-common";
import "./function-operators";

TOPS.add({ firstNow, withTop });
