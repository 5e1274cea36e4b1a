import { pivot, unpivot } from "../../core/steps/pivot";
import { STEPS } from "../../core/steps/run";

STEPS.add("unpivot", unpivot as never);
STEPS.add("pivot", pivot as never);
