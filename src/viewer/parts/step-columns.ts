import { only, rename } from "../../core/steps/columns";
import { STEPS } from "../../core/steps/run";

STEPS.add("only", only as never);
STEPS.add("rename", rename as never);
