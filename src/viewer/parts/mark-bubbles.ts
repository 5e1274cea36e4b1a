import { bubblesDraw } from "../../core/mark/bubbles";
import { MARKS } from "../../core/mark/draws";

MARKS.add("bubbles", bubblesDraw);
