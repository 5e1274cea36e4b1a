import { MARKS } from "../../core/mark/draws";
import { pointsDraw } from "../../core/mark/points";

MARKS.add("points", pointsDraw);
