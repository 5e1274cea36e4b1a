import { keep } from "../../core/steps/keep";
import { STEPS } from "../../core/steps/run";

STEPS.add("keep", keep as never);
