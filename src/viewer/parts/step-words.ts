import { STEPS } from "../../core/steps/run";
import { words } from "../../core/steps/words";

STEPS.add("words", words as never);
