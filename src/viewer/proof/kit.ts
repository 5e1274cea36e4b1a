import { Kit } from "../../core/finding/kit";
import type { Dashboard } from "../dashboard";

/** Takes the dashboard that runs, and is told of each that takes its place. */
type Listen = (dashboard: Dashboard, exchanged: (next: Dashboard) => void) => void;

/** What listens to the workbench around a proof. No written file has it: such a file answers to nobody. */
export const PROOF = new Kit<Listen>("proof");

/** True in a proof of the workbench. */
export const isProof = (): boolean => PROOF.has("proof");
