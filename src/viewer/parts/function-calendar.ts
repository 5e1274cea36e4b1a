import { CALENDAR_FUNCTIONS } from "../../core/formula/functions/calendar";
import { FUNCTIONS } from "../../core/formula/functions/function";

FUNCTIONS.addAll(CALENDAR_FUNCTIONS);
