import { counted, LIMITS } from "../finding/limits";
import { evaluate, type Frame, frameOf } from "../formula/evaluate";
import { groupRows } from "../formula/groups";
import { settingsOf } from "../formula/tree";
import { columnOf, type NumericVector } from "../formula/vector";
import { grainOf, stretchCount } from "../query/interval";
import type { Channel, Interval, Query } from "../query/query";
import type { Path } from "../sheet/tree";
import { GRAINS } from "../table/calendar";
import type { Scalar } from "../table/column";
import type { Table } from "../table/table";
import { addFinding, type Compiling, settingValue } from "./compiling";

/** What a setting may be: what it starts as, and the ends of its range or every choice. */
function valuesOf(compiling: Compiling, name: string): Scalar[] {
  const setting = compiling.settings.get(name);
  return [
    ...new Set<Scalar>([
      setting?.start ?? null,
      ...(setting?.of ?? []),
      ...(compiling.sheet.controls.get(name)?.range ?? []).map(Number),
    ]),
  ];
}

/** The parameter of an interval, in which settings mostly stand. */
const parameterOf = (interval: Interval) =>
  interval.type === "bin" ? interval.count : interval.type === "width" ? interval.width : interval.grain;

/** What to take in place of an interval that makes too many stretches. */
function wayOut(interval: Interval, frame: Frame, larger = false): string {
  if (larger) return "Take wider ones, or fewer series";
  if (interval.type === "bin") return `take ${counted(LIMITS.stretches)} at most`;
  if (interval.type === "width") {
    const width = (evaluate(interval.width, frame) as NumericVector).values[0] as number;
    return `take a width of ${Number((width * 10 ** Math.ceil(Math.log10(stretchCount(interval, frame) / LIMITS.stretches))).toPrecision(2))} or more`;
  }
  const grains = GRAINS.slice(0, GRAINS.indexOf(grainOf(interval, frame))).reverse();
  const fitting = grains.find((grain) => stretchCount({ ...interval, grain }, frame) <= LIMITS.stretches) ?? "year";
  return `take by_${fitting}`;
}

/**
 * Says where the empty bins or periods of all series together are more than are drawn; those with rows are all
 * there.
 */
export function warnEmptyStretches(
  compiling: Compiling,
  path: Path,
  query: Query,
  along: string,
  table: Table,
  piece: string,
) {
  const channel = query.channels[along];
  if (!channel?.interval || !query.grouped) return;
  const frame = frameOf(table, settingValue(compiling));
  const stretches = stretchCount(channel.interval, frame);
  if (stretches * 2 <= LIMITS.emptyStretches / 100) return;
  const others = query.groupBy
    .filter((name) => name !== along)
    .map((name) => columnOf(evaluate((query.channels[name] as Channel).formula, frame), table.rowCount));
  const series = others.length ? groupRows(others, table.rowCount).count : 1;
  if (stretches * series <= LIMITS.emptyStretches) return;
  addFinding(
    compiling,
    path,
    "empty-stretches",
    `${channel.text} makes about ${counted(stretches)} stretches for each of ` +
      `${counted(series)} series; empty ones are not drawn as 0 where they are more than ` +
      `${counted(LIMITS.emptyStretches)} in all. ${wayOut(channel.interval, frame, true)}`,
    { piece, severity: "warning" },
  );
}

/** Bins or periods that are more than can be drawn are said, for whatever a reader may set; they are never cut. */
export function checkStretches(
  compiling: Compiling,
  path: Path,
  channel: Channel,
  table: Table,
  piece: string,
): boolean {
  const { interval } = channel;
  if (!interval) return true;
  const start = settingValue(compiling);
  const parameter = parameterOf(interval);
  const settings = typeof parameter === "string" ? [] : [...settingsOf(parameter)];
  const trials = [
    start,
    ...settings.flatMap((name) =>
      valuesOf(compiling, name).map((value) => (asked: string) => (asked === name ? value : start(asked))),
    ),
  ];
  for (const setting of trials) {
    const frame = frameOf(table, setting);
    const count = stretchCount(interval, frame);
    if (!(count > LIMITS.stretches)) continue;
    addFinding(
      compiling,
      path,
      "too-many-stretches",
      `${channel.text} makes about ${counted(count)} ` +
        `${interval.type === "period" ? "periods" : "bins"}, and at most ` +
        `${counted(LIMITS.stretches)} are drawn; ${wayOut(interval, frame)}`,
      { piece },
    );
    return false;
  }
  return true;
}
