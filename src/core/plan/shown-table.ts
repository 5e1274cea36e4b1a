/** Names of tables of the world's outlines begin so. No author can write it. */
export const WORLD = "\u0000world";

/** What readers and authors know a table by: its name, but for outlines of land, which no author has named. */
export const shownTable = (name: string): string => (name.startsWith(WORLD) ? "outlines of land" : name);
