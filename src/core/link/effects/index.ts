import { type EffectPiece, type EffectSpec, sharesAxis, sharesValues } from "./effect";

const filter = {
  name: "filter",
  says: "Only rows in the selection are used.",
  word: "filters",
  rows: "narrow",
  onItself: false,
  problem: () => undefined,
} as const satisfies EffectSpec;

/** Why a piece cannot be drawn over, if it is no chart. */
const chartsOnly = (verb: string, { name, plan }: EffectPiece): string | undefined =>
  plan.type === "chart" ? undefined : `only charts ${verb}; ${name} is a ${plan.type}, use filter`;

const fade = {
  name: "fade",
  says: "All is drawn faded, the selected part over it.",
  word: "fades",
  amount: true,
  rows: "over",
  onItself: true,
  problem: (_, target) => chartsOnly("fade", target),
} as const satisfies EffectSpec;

const onMap = ({ plan }: EffectPiece) => plan.type === "chart" && plan.stage === "map";

const crosshair = {
  name: "crosshair",
  says: "A rule and readout at the same value; on a map the place.",
  word: "rule",
  rows: "none",
  onItself: true,
  insteadOn: (target) => (onMap(target) ? "highlight" : undefined),
  problem: (source, target) => {
    if (target.plan.type !== "chart") return `a crosshair needs a chart, and ${target.name} is a ${target.plan.type}`;
    return onMap(target) || sharesValues(source, target)
      ? undefined
      : `${target.name} does not share the axis of ${source.name}`;
  },
} as const satisfies EffectSpec;

const highlight = {
  name: "highlight",
  says: "The selection on top in the accent colour, with its label.",
  word: "highlights",
  rows: "over",
  onItself: true,
  problem: (_, target) => chartsOnly("highlight", target),
} as const satisfies EffectSpec;

const zoom = {
  name: "zoom",
  says: "The axis follows the brushed range.",
  word: "zooms",
  rows: "none",
  onItself: true,
  problem: (source, target, axes) => {
    if (target.plan.type !== "chart") return `a zoom needs a chart, and ${target.name} is a ${target.plan.type}`;
    if (axes.length === 0) return `a zoom follows the range of a brush, and this gesture on ${source.name} holds none`;
    const shared = axes.some((axis) => sharesAxis(source, target, axis));
    return shared ? undefined : `${target.name} does not share the ${axes.join(" or ")} of ${source.name}`;
  },
} as const satisfies EffectSpec;

/** All effects, as the language names them. */
const SPECS = [filter, fade, highlight, zoom, crosshair] as const;

export type EffectName = (typeof SPECS)[number]["name"];

export const EFFECTS: readonly EffectName[] = SPECS.map(({ name }) => name);

export const effectSpec = (name: EffectName): EffectSpec => SPECS.find((spec) => spec.name === name) as EffectSpec;
