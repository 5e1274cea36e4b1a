import { Kit } from "../core/finding/kit";
import type { App } from "./app";
import type { StateKeeper } from "./state";

/** What listens to the workbench around a proof. No written file has it: such a file answers to nobody. */
export const PROOF = new Kit<(app: App, keeper: StateKeeper) => void>("proof");

/** True in a proof of the workbench. */
export const isProof = (): boolean => PROOF.has("proof");
