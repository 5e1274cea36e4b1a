import { MARKS } from "../../core/mark/draws";
import { trendDraw } from "../../core/mark/trend";

MARKS.add("trend", trendDraw);
