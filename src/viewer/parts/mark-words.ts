import { MARKS } from "../../core/mark/draws";
import { wordsDraw } from "../../core/mark/words";

MARKS.add("words", wordsDraw);
