import { fill, fillForward } from "../../core/steps/fill";
import { STEPS } from "../../core/steps/run";

STEPS.add("fill", fill as never);
STEPS.add("fill_forward", fillForward as never);
