/** What a button can do. */
export const BUTTON_DEEDS = ["apply", "reset", "redraw", "export"] as const;
export type ButtonDeed = (typeof BUTTON_DEEDS)[number];
