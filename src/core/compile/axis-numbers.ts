import { readEnd } from "../chart/axis-end";
import type { AxisPlan } from "../chart/plan";
import type { AxisSpec } from "../sheet/schema-charts";
import type { Path } from "../sheet/tree";
import type { Kind } from "../table/column";
import { type Place, wrongAt } from "./piece-place";

/** What a sheet says of an axis in numbers: its ends and how many ticks, each written or the value of a setting. */
type AxisNumbers = Pick<AxisPlan, "ticks" | "bySettings"> & { range?: [number, number] };

/** What an end of an axis looks like, for those who have written something else. */
const LIKE: Partial<Record<Kind, string>> = {
  date: "a day such as 2024-03-01",
  datetime: "a moment such as 2024-03-01 or 2024-03-01T12:00",
  duration: "a length of time such as 0:30:00, or its seconds",
};

/** The value that a number of an axis begins with, and the setting behind it; nothing where it is found wrong. */
function numberAt(place: Place, path: Path, kind: Kind, text: string): { value: number; setting?: string } | undefined {
  const { settings, used, sheet } = place.compiling;
  if (!text.startsWith("$")) {
    const value = readEnd(kind, text);
    return Number.isNaN(value)
      ? wrongAt(place, path, "wrong-value", `${LIKE[kind] ?? "a number"} is expected, not "${text}"`)
      : { value };
  }
  const setting = text.slice(1);
  const plan = settings.get(setting);
  if (!plan && sheet.broken.has(setting)) return undefined;
  if (!plan) return wrongAt(place, path, "unknown-setting", `there is no setting "${setting}" among the controls`);
  used.add(setting);
  const value = plan.kind === "number" || plan.day ? readEnd(kind, String(plan.start)) : Number.NaN;
  return Number.isNaN(value) || plan.list
    ? wrongAt(place, path, "wrong-kind", `${text} holds "${plan.start}"; ${LIKE[kind] ?? "a number"} is expected`)
    : { value, setting };
}

/** Reads them for an axis of a kind; nothing where one is found wrong, which is said. */
export function axisNumbers(place: Place, spec: AxisSpec, path: Path, kind: Kind): AxisNumbers | undefined {
  const { range, ticks } = spec;
  const found: AxisNumbers = {};
  const settings: NonNullable<AxisPlan["bySettings"]> = {};
  if (Array.isArray(range)) {
    const ends = range.map((text, at) => numberAt(place, [...path, "range", at], kind, text));
    const [from, to] = ends;
    if (!from || !to) return undefined;
    found.range = [from.value, to.value];
    if (from.setting !== undefined || to.setting !== undefined)
      settings.ends = [from.setting ?? null, to.setting ?? null];
  }
  if (ticks !== undefined) {
    const count = numberAt(place, [...path, "ticks"], "number", ticks);
    if (!count) return undefined;
    found.ticks = count.value;
    if (count.setting !== undefined) settings.ticks = count.setting;
  }
  return Object.keys(settings).length ? { ...found, bySettings: settings } : found;
}
