import { MARKS } from "../../core/mark/draws";
import { rulesDraw } from "../../core/mark/rules";

MARKS.add("rules", rulesDraw);
