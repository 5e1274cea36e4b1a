import { MARKS } from "../../core/mark/draws";
import { slicesDraw } from "../../core/mark/slices";

MARKS.add("slices", slicesDraw);
