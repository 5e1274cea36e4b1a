import { ownOf } from "../core/finding/own";
import { writeDuration } from "../core/formula/duration-text";
import { withoutMarks } from "../core/formula/number-format";
import type { Key, SelectionPlan, SelectionState } from "../core/link/selection";
import { isoDate, isoDatetime } from "../core/table/calendar";
import type { Scalar } from "../core/table/column";
import { readDuration, readIsoDate, readIsoDatetime } from "../core/table/time-text";

/**
 * The state of a dashboard as readable text, as it stands in the address after `#`.
 * Every value is percent-encoded, so that the signs between values keep their meaning.
 */

const encode = (text: string) =>
  encodeURIComponent(text).replace(/[!'()*.~]/g, (sign) => `%${sign.charCodeAt(0).toString(16).toUpperCase()}`);

function decode(text: string): string | undefined {
  try {
    return decodeURIComponent(text);
  } catch {
    // A broken escape in a hand-written address: this part is left out, the rest stands.
    return undefined;
  }
}

/** A number of a kind as text: dates are ISO. */
export function numberText(kind: string, value: number): string {
  if (kind === "date") return isoDate(value);
  if (kind === "datetime") return value % 86400 === 0 ? isoDate(value) : isoDatetime(value);
  return String(value);
}

export function textNumber(kind: string, text: string): number {
  if (kind === "date" || kind === "datetime") {
    const date = readIsoDate(text);
    return date === date ? date : readIsoDatetime(text);
  }
  if (kind === "duration" && text.includes(":")) return readDuration(text.trim());
  return text.trim() === "" ? Number.NaN : Number(text);
}

/** A number of a kind as readers type it: a length of time by the clock, everything else as in the address. */
export function typedText(kind: string, value: number): string {
  return kind === "duration" && Number.isInteger(value) ? writeDuration(value) : numberText(kind, value);
}

/** What a reader has typed as a value of a kind, as addresses and scripts write it. */
export const typedPlain = (kind: string, typed: string): string =>
  kind === "number" ? withoutMarks(typed) : typed.trim();

export const writeRange = (kind: string, [low, high]: [number, number]) =>
  `${encodeNumber(numberText(kind, low))}..${encodeNumber(numberText(kind, high))}`;
const encodeNumber = (text: string) => encodeURIComponent(text);

export function readRange(kind: string, text: string): [number, number] | undefined {
  const [from, to] = text.split("..").map((part) => textNumber(kind, decode(part) ?? ""));
  return from !== undefined && to !== undefined && from <= to ? [from, to] : undefined;
}

function valueText(value: Scalar | [number, number], kind: string): string {
  if (Array.isArray(value)) return `~${writeRange(kind, value)}`;
  return value === null ? "~missing" : encode(String(value));
}

function readKeyValue(text: string, kind: string): Scalar | [number, number] | undefined {
  if (text === "~missing") return null;
  if (text.startsWith("~")) return readRange(kind, text.slice(1));
  const plain = decode(text);
  if (plain === undefined) return undefined;
  if (kind === "number" || kind === "duration") return Number.isNaN(Number(plain)) ? undefined : Number(plain);
  if (kind === "boolean") return plain === "true";
  return plain;
}

const kindOf = (plan: SelectionPlan, name: string) => ownOf(plan.words, name)?.kind ?? "text";

/** `x:8..20`, `berth:Salt%20Steps;berth:Granary`, `rows:3,17@SEAL`: row numbers hold for one build only. */
export function writeSelection(plan: SelectionPlan, state: SelectionState, seal = ""): string {
  const parts: string[] = [];
  for (const axis of ["x", "y"] as const)
    if (state[axis]) parts.push(`${axis}:${writeRange(kindOf(plan, axis), state[axis])}`);
  if (state.on) parts.push(`on:${["x", "y"].map((axis) => encode(state.on?.[axis as "x" | "y"] ?? "")).join(";")}`);
  if (state.keys)
    parts.push(
      `keys:${state.keys
        .map((key) =>
          Object.entries(key)
            .map(([name, value]) => `${encode(name)}:${valueText(value, kindOf(plan, name))}`)
            .join("+"),
        )
        .join(";")}`,
    );
  if (state.outline) {
    const corner = ([x, y]: [number, number]) =>
      `${encodeNumber(numberText(kindOf(plan, "x"), x))},${encodeNumber(numberText(kindOf(plan, "y"), y))}`;
    parts.push(`outline:${state.outline.map(corner).join(";")}`);
  }
  if (state.rows) parts.push(`rows:${state.rows.join(",")}@${seal}`);
  const only = parts[0] ?? "";
  return parts.length === 1 && only.startsWith("keys:") && state.keys?.length ? only.slice(5) : parts.join("|");
}

/** The kind of a column of a selection's table, if the file has one of that name. */
type KindOf = (column: string) => string | undefined;

/**
 * Reads a selection back; rows picked in another build are left out.
 *
 * @param others the columns of its table, by any of which scripts may pick
 */
export function readSelection(
  plan: SelectionPlan,
  text: string,
  seal = "",
  others: KindOf = () => undefined,
): SelectionState | undefined {
  const state: SelectionState = {};
  for (const part of text.split("|")) {
    const colon = part.indexOf(":");
    const head = part.slice(0, colon);
    const rest = part.slice(colon + 1);
    if ((head === "x" || head === "y") && plan.axes[head]) {
      const range = readRange(kindOf(plan, head), rest);
      if (range) state[head] = range;
    } else if (head === "on") {
      const [x, y] = rest.split(";").map((one) => decode(one) ?? "");
      state.on = { ...(x ? { x } : {}), ...(y ? { y } : {}) };
    } else if (head === "outline" && plan.outline) {
      const corners = rest.split(";").map((corner): [number, number] => {
        const [x, y] = corner.split(",").map((one) => decode(one) ?? "");
        return [textNumber(kindOf(plan, "x"), x ?? ""), textNumber(kindOf(plan, "y"), y ?? "")];
      });
      if (corners.length >= 3 && corners.every((corner) => corner.every(Number.isFinite))) state.outline = corners;
    } else if (head === "rows") {
      const [numbers = "", of] = rest.split("@");
      const rows =
        of === seal
          ? numbers
              .split(",")
              .map(Number)
              .filter((row) => Number.isInteger(row) && row >= 0)
          : [];
      if (rows.length) state.rows = rows;
    } else {
      const keys = head === "keys" && rest === "" ? [] : readKeys(plan, head === "keys" ? rest : part, others);
      if (keys) state.keys = keys;
    }
  }
  return state.x || state.y || state.keys || state.rows || state.outline ? state : undefined;
}

function readKeys(plan: SelectionPlan, text: string, others: KindOf): Key[] | undefined {
  const keys = text.split(";").map((one) => {
    const values: [string, Key[string]][] = [];
    for (const pair of one.split("+")) {
      const [name, value] = pair.split(":");
      const column = name === undefined ? undefined : decode(name);
      if (column === undefined || value === undefined) return undefined;
      const kind = Object.hasOwn(plan.keys, column) ? kindOf(plan, column) : others(column);
      const read = kind === undefined ? undefined : readKeyValue(value, kind);
      if (read === undefined) return undefined;
      values.push([column, read]);
    }
    return Object.fromEntries(values);
  });
  const sound = keys.filter((key): key is Key => key !== undefined);
  return sound.length ? sound : undefined;
}

/** A list of names, `salt,fuel`; missing is `~missing`. */
export const writeNames = (names: readonly (string | null)[]): string =>
  names.map((name) => (name === null ? "~missing" : encode(name))).join(",");

export function readNames(text: string): (string | null)[] {
  return text === "" ? [] : text.split(",").map((part) => (part === "~missing" ? null : (decode(part) ?? "")));
}

export function writeAddress(state: Readonly<Record<string, string>>): string {
  return Object.entries(state)
    .map(([key, value]) => `${encodeURIComponent(key)}=${value}`)
    .join("&");
}

export function readAddress(hash: string): Map<string, string> {
  const found = new Map<string, string>();
  for (const part of hash.replace(/^#/, "").split("&")) {
    const at = part.indexOf("=");
    const key = at > 0 ? decode(part.slice(0, at)) : undefined;
    if (key !== undefined) found.set(key, part.slice(at + 1));
  }
  return found;
}

/** Keys of the address that speak of the page itself. */
const OWN_KEYS = new Set(["page", "side"]);

/** The key of a selection or control: its name, unless the page itself goes by that. */
export const keyOf = (name: string): string => (OWN_KEYS.has(name) ? `${name}.held` : name);

export { decode as decodePart, encode as encodePart };
