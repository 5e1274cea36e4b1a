import { boxesDraw } from "../../core/mark/boxes";
import { MARKS } from "../../core/mark/draws";

MARKS.add("boxes", boxesDraw);
