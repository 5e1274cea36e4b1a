import { Optional } from "../finding/kit";
import type { Words } from "../scene/shapes/words";
import type { Drawing } from "./mark";

/** Where the words of a mark stand, in pixels; `on` the mark itself, and not beside it. */
export interface WordSpot {
  x: number;
  y: number;
  anchor: "start" | "middle" | "end";
  on?: boolean;
}

/**
 * Writes the labels of marks, each where its mark says; marks that have no room for theirs go without, and those
 * whose words would run into others.
 *
 * @param spotOf asked with the mark's place among those drawn and the width of its words, in pixels
 * @param rim words lie among marks, and have a rim of the ground
 */
export type WriteAtMarks = (
  drawing: Drawing,
  spotOf: (mark: number, width: number) => WordSpot | undefined,
  rim?: boolean,
) => Words[];

/** How labels are written at marks; a dashboard has it where a layer has labels. */
export const MARK_WORDS = new Optional<WriteAtMarks>("labels at marks");

/** The labels of marks that have some. */
export const wordsAt: WriteAtMarks = (drawing, spotOf, rim) =>
  drawing.isLabelled ? MARK_WORDS.get()(drawing, spotOf, rim) : [];
