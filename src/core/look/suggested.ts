import type { Suggestion } from "../advice/rules";
import type { Picture } from "./pictures";

/** A suggested chart as it would look. */
export interface DrawnSuggestion extends Suggestion {
  picture: Picture;
}

/** Size of the pictures, in pixels. */
export const SUGGESTED = { width: 236, height: 132 };
