import type { Kind, Scalar } from "../table/column";
import { readDuration, readIsoDate, readIsoDatetime } from "../table/time-text";
import type { AxisPlan } from "./plan";

/**
 * An end of an axis, as it is written in the axis's own kind: a date, a year for its first day, a moment, a length of
 * time by the clock; else a number, of moments and lengths of time that of their seconds.
 */
export function readEnd(kind: Kind, text: string): number {
  if (kind === "duration" && text.includes(":")) return readDuration(text);
  if (kind !== "date" && kind !== "datetime") return Number(text);
  const day = readIsoDate(/^\d{4}$/.test(text) ? `${text}-01-01` : text);
  const moment = Number.isNaN(day) ? readIsoDatetime(text) : day;
  return Number.isNaN(moment) ? Number(text) : moment;
}

/** An axis whose ends or number of ticks readers set, as they have set them. */
export function withSetNumbers(axis: AxisPlan, setting: (name: string) => Scalar): AxisPlan {
  const { bySettings, range, kind } = axis;
  if (!bySettings) return axis;
  const { ticks, ends } = bySettings;
  const endAt = (at: 0 | 1, stated: number) => {
    const name = ends?.[at];
    return name ? readEnd(kind, String(setting(name))) : stated;
  };
  return {
    ...axis,
    ...(ticks === undefined ? {} : { ticks: Number(setting(ticks)) }),
    ...(Array.isArray(range) ? { range: [endAt(0, range[0]), endAt(1, range[1])] } : {}),
  };
}
