import { densityDraw } from "../../core/mark/density";
import { MARKS } from "../../core/mark/draws";

MARKS.add("density", densityDraw);
