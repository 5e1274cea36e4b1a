/** The name of a frame in which the workbench shows a dashboard: its dashboards talk to it, all others to nobody. */
export const PROOF_NAME = "still-harbor-proof";
