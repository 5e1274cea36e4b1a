import { barsDraw } from "../../core/mark/bars";
import { MARKS } from "../../core/mark/draws";

MARKS.add("bars", barsDraw);
