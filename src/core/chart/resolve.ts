import { listOf } from "../formula/list-setting";
import { type Choices, choiceKey } from "../query/choices";
import type { Channel, Query } from "../query/query";
import type { Scalar } from "../table/column";
import { withSetNumbers } from "./axis-end";
import type { AxisPlan, ChartPlan, DataTablePlan, PiecePlan, TableColumn } from "./plan";

type SettingValue = (name: string) => Scalar;

function chosen<T extends { choices?: Choices<T> }>(one: T, setting: SettingValue): T {
  const { choices } = one;
  return choices ? (choices.of[choiceKey(choices.settings.map(setting))] ?? one) : one;
}

/** Settings by which a reader chooses what a piece shows, once each. */
export function choosingSettings(plan: PiecePlan): string[] {
  if (plan.type === "chart" && plan.variants)
    return [...new Set([...plan.variants.settings, ...Object.values(plan.variants.of).flatMap(choosingSettings)])];
  const channels = plan.type === "chart" ? plan.layers.map(({ query }) => query) : [plan.query];
  const found = channels.flatMap((query) =>
    Object.values(query.channels).flatMap((one) => one.choices?.settings ?? []),
  );
  const lists = plan.type === "table" ? plan.columns.flatMap(({ list }) => (list ? [list.setting] : [])) : [];
  return [...new Set([...found, ...lists, ...axisSettings(plan)])];
}

/** Settings that say the ends of a chart's axes, or how many ticks they have. */
const axisSettings = (plan: PiecePlan): string[] =>
  plan.type === "chart"
    ? Object.values(plan.axes).flatMap(({ bySettings: { ticks, ends = [] } = {} }) =>
        [ticks, ...ends].flatMap((name) => name ?? []),
      )
    : [];

/** A data table with those columns of its lists that a reader has taken, in the order in which they were. */
function withListed(plan: DataTablePlan, setting: SettingValue): DataTablePlan {
  if (!plan.columns.some(({ list }) => list)) return plan;
  const columns: TableColumn[] = [];
  const done = new Set<string>();
  for (const column of plan.columns) {
    if (!column.list) columns.push(column);
    else if (!done.has(column.list.setting)) {
      const own = column.list.setting;
      done.add(own);
      for (const value of listOf(setting(own))) {
        const found = plan.columns.find(({ list }) => list?.setting === own && list.value === String(value));
        if (found) columns.push(found);
      }
    }
  }
  const left = new Set([...columns.map(({ channel }) => channel), "identity"]);
  const { query } = plan;
  const channels = Object.fromEntries(Object.entries(query.channels).filter(([name]) => left.has(name)));
  return { ...plan, columns, query: { ...query, channels, groupBy: query.groupBy.filter((name) => left.has(name)) } };
}

/** A chart under every value of the settings that say how it looks; a chart without such settings as it is. */
export const everyVariant = (plan: ChartPlan): ChartPlan[] =>
  plan.variants ? Object.values(plan.variants.of) : [plan];

const resolvedQuery = (query: Query, setting: SettingValue): Query => ({
  ...query,
  channels: Object.fromEntries(
    Object.entries(query.channels).map(([name, channel]): [string, Channel] => [name, chosen(channel, setting)]),
  ),
});

function resolvedAxes(axes: ChartPlan["axes"], setting: SettingValue): ChartPlan["axes"] {
  return Object.fromEntries(
    Object.entries(axes).map(([name, axis]): [string, AxisPlan] => [
      name,
      withSetNumbers(chosen<AxisPlan>(axis, setting), setting),
    ]),
  );
}

/** A piece as it is under the settings: with the columns that a reader has chosen, their words, kinds and axes. */
export function resolvedPiece<P extends PiecePlan>(plan: P, setting: SettingValue): P {
  if (plan.type === "table") {
    const own = withListed(plan, setting);
    return { ...own, query: resolvedQuery(own.query, setting) } as P;
  }
  if (plan.type === "chart" && plan.variants) {
    const { settings, of } = plan.variants;
    const own = of[choiceKey(settings.map(setting))];
    if (own) return resolvedPiece(own, setting) as P;
  }
  if (plan.type !== "chart") return { ...plan, query: resolvedQuery(plan.query, setting) };
  return {
    ...plan,
    layers: plan.layers.map((layer) => ({ ...layer, query: resolvedQuery(layer.query, setting) })),
    axes: resolvedAxes(plan.axes, setting),
  };
}
