import { channelWords } from "../../link/gestures/gesture";
import type { SelectionEffect, SelectionPlan } from "../../link/selection";
import type { PickControlPlan } from "../../plan/plan";
import { dependants, isKnownPiece, type Linking } from "./linking";

/** The selection that a pick control makes: it filters all that descends from its table, unless it says otherwise. */
export function controlSelection(linking: Linking, control: PickControlPlan): SelectionPlan {
  const spec = linking.compiling.sheet.controls.get(control.name);
  const path = ["controls", control.name];
  const named = (key: "only" | "fade") =>
    (spec?.[key] ?? []).filter((target, at) => isKnownPiece(linking, target, [...path, key, at]));
  const fades = named("fade");
  const targets = spec?.only ? named("only") : dependants(linking, control.from).map(({ name }) => name);
  const effects: SelectionEffect[] = targets
    .filter((target) => !fades.includes(target))
    .map((target) => ({ effect: "filter", target }));
  for (const target of fades) effects.push({ effect: "fade", target });
  const isRange = control.as === "range";
  const { channel } = control;
  return {
    name: control.name,
    source: control.name,
    gesture: "control",
    kept: true,
    table: control.from,
    axes: isRange ? { x: channel.formula } : {},
    keys: isRange ? {} : { [channel.text]: channel.formula },
    ...(control.split === undefined ? {} : { split: control.split }),
    by: [],
    inclusive: true,
    effects,
    words: { [isRange ? "x" : channel.text]: { ...channelWords(channel), label: control.label } },
  };
}
