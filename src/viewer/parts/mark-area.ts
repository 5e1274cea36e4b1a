import { areaDraw } from "../../core/mark/area";
import { MARKS } from "../../core/mark/draws";

MARKS.add("area", areaDraw);
