import { STEPS } from "../../core/steps/run";
import { unique } from "../../core/steps/unique";

STEPS.add("unique", unique as never);
