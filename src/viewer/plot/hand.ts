import type { Drawn } from "../../core/chart/draw";
import type { Point } from "../../core/scene/shapes/shape";
import type { Found } from "./find-mark";

/** Where arrows point, in pixels' directions. */
export const ARROWS: Readonly<Record<string, Point>> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
};

/** A gesture on a plot: what the pointer and the keyboard do there while it may be made. */
export interface Hand {
  /** What the keyboard can do, as one part of a sentence. */
  help?: string;
  /** The pointer comes to the plot, or the gesture is about to begin: time to make the index ready. */
  warm?(): void;
  down?(event: PointerEvent, at: Point): void;
  /** True while the gesture holds the pointer, so that nothing else follows it. */
  move?(event: PointerEvent, at: Point): boolean;
  /** True if the gesture ended here, so that a press is not taken for anything else. */
  up?(event: PointerEvent, at: Point): boolean;
  cancel?(): void;
  double?(): void;
  /** Shows what it holds for the pointer's place in a way of its own; true if it did. */
  point?(event: PointerEvent, at: Point): boolean;
  /** The mark under the pointer, or where the keyboard stands, has changed. */
  found?(found: Found | undefined): void;
  /** A mark, or the empty plot, is pressed. */
  press?(found: Found | undefined, add: boolean): void;
  leave?(): void;
  /** True if the key was meant for it. */
  key?(event: KeyboardEvent): boolean;
  keyUp?(event: KeyboardEvent): void;
  wheel?(event: WheelEvent): void;
  /** Draws what it holds over the marks. */
  draw?(drawn: Drawn, overlay: SVGSVGElement): void;
}
