import { barsSpec } from "./bars";
import { lineSpec } from "./line";
import type { MarkSpec } from "./mark";
import { pointsSpec } from "./points";

/** All marks, as the language names them: from here come schema, reference and completion. */
const SPECS = [pointsSpec, barsSpec, lineSpec] as const;

export type MarkName = (typeof SPECS)[number]["name"];

export const MARK_NAMES = SPECS.map(({ name }) => name);

export const markSpec = (name: MarkName): MarkSpec => SPECS.find((spec) => spec.name === name) as MarkSpec;
