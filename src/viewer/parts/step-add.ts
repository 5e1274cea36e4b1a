import { add } from "../../core/steps/add";
import { STEPS } from "../../core/steps/run";

STEPS.add("add", add as never);
