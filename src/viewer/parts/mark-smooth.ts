import { MARKS } from "../../core/mark/draws";
import { smoothDraw } from "../../core/mark/smooth";

MARKS.add("smooth", smoothDraw);
