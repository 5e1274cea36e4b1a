import { brushX, brushXY, brushY, lasso } from "./brush";
import type { GestureSpec } from "./gesture";
import { click, hover, hoverX, legend, rows } from "./pick";

/** All gestures, as the language names them; longer names stand before those that begin them. */
const SPECS = [brushX, brushY, brushXY, lasso, click, hoverX, hover, legend, rows] as const;

export type GestureName = (typeof SPECS)[number]["name"];

export const GESTURES: readonly GestureName[] = SPECS.map(({ name }) => name);

export const gestureSpec = (name: GestureName): GestureSpec => SPECS.find((spec) => spec.name === name) as GestureSpec;
