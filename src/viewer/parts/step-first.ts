import { first, last, sample } from "../../core/steps/first";
import { STEPS } from "../../core/steps/run";

STEPS.add("first", first as never);
STEPS.add("last", last as never);
STEPS.add("sample", sample as never);
