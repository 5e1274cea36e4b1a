import { MARKS } from "../../core/mark/draws";
import { trackDraw } from "../../core/mark/track";

MARKS.add("track", trackDraw);
