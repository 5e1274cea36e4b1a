import { ownOf } from "../core/finding/own";
import { writeCount, writer } from "../core/formula/format";
import {
  type Key,
  OPEN_HIGH,
  OPEN_LOW,
  type SelectionPlan,
  type SelectionState,
  type SelectionWords,
} from "../core/link/selection";
import { DAY } from "../core/table/calendar";
import { readIsoDate, readIsoDatetime } from "../core/table/time-text";
import type { App } from "./app";

function number(words: SelectionWords | undefined, value: number): string {
  if (!words) return String(value);
  const kind = words.kind === "datetime" && value % 86400 === 0 ? "date" : words.kind;
  return writer(kind, words.format)(value);
}

const GRAINS: Record<string, string> = { by_year: "%Y", year: "%Y", quarter: "%b %Y", month: "%B %Y" };

function keyValue(words: SelectionWords | undefined, value: Key[string]): string {
  if (Array.isArray(value)) return `${number(words, value[0])} to ${number(words, value[1])}`;
  if (value === null) return "missing";
  if (typeof value === "string" && (words?.kind === "date" || words?.kind === "datetime")) {
    const date = readIsoDate(value);
    const seconds = date === date ? date : readIsoDatetime(value);
    return writer(words.kind, words.grain ? GRAINS[words.grain] : words.format)(seconds);
  }
  if (typeof value === "string") return value;
  return typeof value === "number" ? number(words, value) : writer("boolean", words?.format)(Number(value));
}

/** What a selection holds now, in words. */
export const heldText = ({ model }: Pick<App, "model">, plan: SelectionPlan): string =>
  selectionText(plan, model.engine.state(plan.name) ?? {}, (rows) => model.rowNames(plan, rows));

/**
 * What a selection holds, in words: `waited 8 to 20 h`, `berth is Salt Steps`.
 * @param rowNames what some rows are called, where they have names
 */
export function selectionText(
  plan: SelectionPlan,
  state: SelectionState,
  rowNames?: (rows: readonly number[]) => string | undefined,
): string {
  const parts: string[] = [];
  for (const axis of ["x", "y"] as const) {
    const range = state[axis];
    // Of an axis that readers choose, what it showed when the range was drawn.
    const words = ownOf(plan.words, state.on?.[axis] ?? axis) ?? plan.words[axis];
    if (range)
      parts.push(`${words?.label ?? axis} ${rangeText(plan, words, range)}${words?.unit ? ` ${words.unit}` : ""}`);
  }
  if (state.outline) parts.push(`${plan.words.x?.label ?? "x"} and ${plan.words.y?.label ?? "y"} within an outline`);
  if (state.search)
    parts.push(
      `“${state.search}” in ${Object.values(plan.words)
        .map(({ label }) => label)
        .join(" or ")}`,
    );
  for (const { column, test, value } of state.conditions ?? []) {
    const words = ownOf(plan.words, column);
    parts.push(`${words?.label ?? column} ${TEST_WORDS[test]} ${keyValue(words, value)}`);
  }
  if (state.keys) parts.push(keysText(plan, state.keys));
  if (state.rows) {
    const count = state.rows.length === 1 ? "one row" : `${writeCount(state.rows.length)} rows`;
    parts.push(rowNames?.(state.rows) ?? `${count} of ${plan.source.replaceAll("_", " ")}`);
  }
  return parts.join(" and ");
}

const TEST_WORDS = { is: "is", is_not: "is not", at_least: "at least", at_most: "at most", contains: "contains" };

/** A range in words; one that is open on a side says only its end. */
function rangeText(plan: SelectionPlan, words: SelectionWords | undefined, [low, high]: [number, number]): string {
  if (high === OPEN_HIGH) return `${plan.openBelow ? "above" : "at least"} ${number(words, low)}`;
  if (low === OPEN_LOW) return `${plan.inclusive ? "at most" : "below"} ${number(words, high)}`;
  return fromTo((value) => number(words, value), [low, high], words?.whole);
}

/** Both ends of a range in words; of whole periods the first and the last one that lie in it. */
export function fromTo(write: (value: number) => string, [low, high]: [number, number], whole = false): string {
  const areDays = whole && low % DAY === 0 && high % DAY === 0;
  const [first, last] = [write(low), write(areDays ? high - DAY : high)];
  return areDays && first === last ? first : `${first} to ${last}`;
}

function keysText(plan: SelectionPlan, keys: readonly Key[]): string {
  const first = keys[0];
  if (!first) return `${Object.values(plan.words)[0]?.label ?? plan.name} is none`;
  const names = Object.keys(first);
  const labels = names.map((name) => ownOf(plan.words, name)?.label ?? name);
  if (names.length === 1) {
    const name = names[0] as string;
    const values = keys.map((key) => keyValue(ownOf(plan.words, name), key[name] as Key[string]));
    return values.length > 3 ? `${labels[0]} is one of ${values.length}` : `${labels[0]} is ${values.join(" or ")}`;
  }
  if (keys.length > 2) return `${keys.length} of ${labels.join(" and ")}`;
  return keys
    .map((key) =>
      names
        .map((name, at) => `${labels[at]} is ${keyValue(ownOf(plan.words, name), key[name] as Key[string])}`)
        .join(" and "),
    )
    .join(", or ");
}
