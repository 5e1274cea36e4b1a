import { STEPS } from "../../core/steps/run";
import { stack } from "../../core/steps/stack";

STEPS.add("stack", stack as never);
