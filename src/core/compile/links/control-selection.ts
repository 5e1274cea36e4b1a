import { leadingLayer } from "../../chart/leading";
import type { ChartPlan } from "../../chart/plan";
import { printFormula } from "../../formula/print";
import type { Formula } from "../../formula/tree";
import type { EffectName } from "../../link/effects/index";
import { channelWords } from "../../link/gestures/gesture";
import type { SelectionEffect, SelectionPlan } from "../../link/selection";
import type { AnyControlPlan, PickControlPlan, PlanPiece, SearchControlPlan } from "../../plan/plan";
import { type Channel, keyName } from "../../query/query";
import { addFinding } from "../compiling";
import { dependants, isKnownPiece, type Linking } from "./linking";

type Picking = PickControlPlan | SearchControlPlan | AnyControlPlan;

/** Lists under which a control names charts on which it does something else than filter. */
const INSTEAD = ["fade", "highlight", "zoom"] as const satisfies readonly EffectName[];

/** The selection that a control makes: it filters all that descends from its table, unless it says otherwise. */
export function controlSelection(linking: Linking, control: Picking): SelectionPlan {
  return {
    name: control.name,
    source: control.name,
    gesture: "control",
    kept: true,
    table: control.from,
    by: [],
    inclusive: true,
    ...(control.type === "pick" ? pickedOn(control) : askedOf(control)),
    effects: effectsOf(linking, control),
  };
}

function effectsOf(linking: Linking, control: Picking): SelectionEffect[] {
  const spec = linking.compiling.sheet.controls.get(control.name);
  const named = (key: "only" | (typeof INSTEAD)[number]) =>
    (spec?.[key] ?? []).filter((target, at) => isKnownPiece(linking, target, ["controls", control.name, key, at]));
  const instead = INSTEAD.flatMap((effect) =>
    named(effect).flatMap((target) => otherEffect(linking, control, effect, target) ?? []),
  );
  const targets = spec?.only ? named("only") : dependants(linking, control.from).map(({ name }) => name);
  const filters = targets.filter((target) => !instead.some((other) => other.target === target));
  return [...filters.map((target): SelectionEffect => ({ effect: "filter", target })), ...instead];
}

/** What a control does to a chart in place of filtering it; nothing where it cannot, which is said. */
function otherEffect(
  { compiling, pieces }: Linking,
  control: Picking,
  effect: (typeof INSTEAD)[number],
  target: string,
): SelectionEffect | undefined {
  const piece = pieces.get(target) as PlanPiece;
  const wrong = (message: string) => {
    const at = compiling.sheet.controls.get(control.name)?.[effect]?.indexOf(target) ?? 0;
    addFinding(compiling, ["controls", control.name, effect, at], "effect-here", message, { piece: control.name });
    return undefined;
  };
  if (piece.plan.type !== "chart") return wrong(`only charts ${effect}; ${target} is a ${piece.plan.type}`);
  if (effect !== "zoom") return { effect, target };
  if (control.type !== "pick" || control.holds !== "range")
    return wrong(`a zoom follows the two ends of a range: as: range, or dates; ${control.name} has none`);
  const axis = axisShowing(piece.plan, control.channel);
  return axis ? { effect, target, axis } : wrong(`no axis of ${target} shows ${control.channel.text}`);
}

/** The axis of a chart on which a channel's values stand, be it in bins or periods of them. */
function axisShowing(chart: ChartPlan, { text }: Channel): "x" | "y" | undefined {
  const { channels } = leadingLayer(chart).query;
  const shows = (shown: Channel | undefined) =>
    shown !== undefined && (shown.text === text || (shown.interval && printFormula(shown.interval.of) === text));
  return (["x", "y"] as const).find((axis) => shows(channels[axis]) && chart.axes[axis]?.scale !== "category");
}

type Basis = Pick<SelectionPlan, "axes" | "keys" | "words" | "split" | "openBelow" | "inclusive" | "columns">;

/** What a pick selects on: a range of its formula, or values of it. */
function pickedOn({ channel, holds, as, label, split }: PickControlPlan): Basis {
  const words = { ...channelWords(channel), label };
  if (holds === "values")
    return {
      axes: {},
      keys: { [keyName(channel)]: channel.formula },
      words: { [keyName(channel)]: words },
      ...(split === undefined ? {} : { split }),
    };
  return {
    axes: { x: channel.formula },
    keys: {},
    words: { x: words },
    ...(as === "above" ? { openBelow: true as const } : {}),
    inclusive: as !== "below",
  };
}

/** What a search looks in, and of which columns readers make conditions. */
function askedOf({ columns }: SearchControlPlan | AnyControlPlan): Basis {
  const named = (channel: Channel) => channel.column ?? channel.text;
  return {
    axes: {},
    keys: {},
    columns: Object.fromEntries(columns.map((channel): [string, Formula] => [named(channel), channel.formula])),
    words: Object.fromEntries(columns.map((channel) => [named(channel), channelWords(channel)])),
  };
}
