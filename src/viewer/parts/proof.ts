import { PROOF } from "../proof/kit";
import { listenToWorkbench } from "../proof/listen";

PROOF.add("proof", listenToWorkbench);
