import { LOOPS, PLAIN_LOOPS } from "../arithmetic";
import { MEASURES } from "../measures";
import { OPERATORS } from "../operator";
import { ALL_OPERATORS } from "../operators";
import { ORDERED } from "../ordered";
import { ORDERED_MEASURES } from "../ordered-measures";
import { orderedWays } from "../ordered-ways";
import { SPREAD_MEASURES } from "../spread-measures";
import { CALENDAR_FUNCTIONS } from "./calendar";
import { COMMON_FUNCTIONS } from "./common";
import { DRAW_FUNCTIONS } from "./draws";
import { FUNCTIONS, ROW_FUNCTIONS, type ValueFunction } from "./function";
import { INTERVAL_FUNCTIONS } from "./intervals";
import { NUMBER_FUNCTIONS, raise } from "./numbers";
import { FUNCTIONS_OVER_ROWS } from "./rows";
import { TEXT_FUNCTIONS } from "./texts";

/** Functions that a dashboard has only where a formula calls one of them, by the part of the viewer they come in. */
const GROUPS: Readonly<Record<string, Readonly<Record<string, ValueFunction>>>> = {
  calendar: CALENDAR_FUNCTIONS,
  common: COMMON_FUNCTIONS,
  draws: DRAW_FUNCTIONS,
  intervals: INTERVAL_FUNCTIONS,
  numbers: NUMBER_FUNCTIONS,
  texts: TEXT_FUNCTIONS,
};

// All functions are there wherever dashboards are made.
for (const group of Object.values(GROUPS)) FUNCTIONS.addAll(group);
ROW_FUNCTIONS.addAll(FUNCTIONS_OVER_ROWS);
LOOPS.addAll({ ...PLAIN_LOOPS, "^": raise });
OPERATORS.addAll(ALL_OPERATORS);
MEASURES.addAll(ORDERED_MEASURES);
MEASURES.addAll(SPREAD_MEASURES);
ORDERED.add(orderedWays);

/** The part of the viewer in which a function, an aggregate or the sign of an operator comes. */
export const functionPartOf: ReadonlyMap<string, string> = new Map([
  ...Object.entries(GROUPS).flatMap(([part, group]) => Object.keys(group).map((name) => [name, part] as const)),
  ...Object.keys(FUNCTIONS_OVER_ROWS).map((name) => [name, "rows"] as const),
  ["^", "numbers"] as const,
  ["share", "operators"] as const,
  ...Object.keys(ORDERED_MEASURES).map((name) => [name, "order"] as const),
  ...Object.keys(SPREAD_MEASURES).map((name) => [name, "spread"] as const),
]);
