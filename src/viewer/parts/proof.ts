import { listenToFrame } from "../frame";
import { PROOF } from "../proof-kit";

PROOF.add("proof", listenToFrame);
