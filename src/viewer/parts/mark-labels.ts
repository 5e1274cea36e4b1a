import { MARKS } from "../../core/mark/draws";
import { labelsDraw } from "../../core/mark/labels";

MARKS.add("labels", labelsDraw);
