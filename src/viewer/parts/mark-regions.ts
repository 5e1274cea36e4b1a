import { MARKS } from "../../core/mark/draws";
import { regionsDraw } from "../../core/mark/regions";

MARKS.add("regions", regionsDraw);
