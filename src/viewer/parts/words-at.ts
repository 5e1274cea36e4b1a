import { MARK_WORDS } from "../../core/mark/mark-words";
import { writeAtMarks } from "../../core/mark/words-at";

MARK_WORDS.add(writeAtMarks);
