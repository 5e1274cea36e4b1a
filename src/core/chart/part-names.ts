/** What of a chart can be pressed to choose something of it. */
export type PartName = "title" | "x" | "y" | "color" | "marks";
