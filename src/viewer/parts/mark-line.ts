import { MARKS } from "../../core/mark/draws";
import { lineDraw } from "../../core/mark/line";

MARKS.add("line", lineDraw);
