import { STEPS } from "../../core/steps/run";
import { sort } from "../../core/steps/sort";

STEPS.add("sort", sort as never);
