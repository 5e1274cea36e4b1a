import { density, smooth } from "../../core/steps/curves";
import { STEPS } from "../../core/steps/run";

STEPS.add("smooth", smooth as never);
STEPS.add("density", density as never);
