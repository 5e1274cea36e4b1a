import { join } from "../../core/steps/join";
import { STEPS } from "../../core/steps/run";

STEPS.add("join", join as never);
