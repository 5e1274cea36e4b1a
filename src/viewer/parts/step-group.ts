import { group } from "../../core/steps/group";
import { STEPS } from "../../core/steps/run";

STEPS.add("group", group as never);
