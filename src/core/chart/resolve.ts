import { type Choices, choiceKey } from "../query/choices";
import type { Channel, Query } from "../query/query";
import type { Scalar } from "../table/column";
import type { AxisPlan, ChartPlan, PiecePlan } from "./plan";

type SettingValue = (name: string) => Scalar;

function chosen<T extends { choices?: Choices<T> }>(one: T, setting: SettingValue): T {
  const { choices } = one;
  return choices ? (choices.of[choiceKey(choices.settings.map(setting))] ?? one) : one;
}

/** Settings by which a reader chooses what a piece shows, once each. */
export function choosingSettings(plan: PiecePlan): string[] {
  const channels = plan.type === "chart" ? plan.layers.map(({ query }) => query) : [plan.query];
  const found = channels.flatMap((query) =>
    Object.values(query.channels).flatMap((one) => one.choices?.settings ?? []),
  );
  return [...new Set(found)];
}

const resolvedQuery = (query: Query, setting: SettingValue): Query => ({
  ...query,
  channels: Object.fromEntries(
    Object.entries(query.channels).map(([name, channel]): [string, Channel] => [name, chosen(channel, setting)]),
  ),
});

function resolvedAxes(axes: ChartPlan["axes"], setting: SettingValue): ChartPlan["axes"] {
  return Object.fromEntries(
    Object.entries(axes).map(([name, axis]): [string, AxisPlan] => [name, chosen<AxisPlan>(axis, setting)]),
  );
}

/** A piece as it is under the settings: with the columns that a reader has chosen, their words, kinds and axes. */
export function resolvedPiece<P extends PiecePlan>(plan: P, setting: SettingValue): P {
  if (plan.type !== "chart") return { ...plan, query: resolvedQuery(plan.query, setting) };
  return {
    ...plan,
    layers: plan.layers.map((layer) => ({ ...layer, query: resolvedQuery(layer.query, setting) })),
    axes: resolvedAxes(plan.axes, setting),
  };
}
