import type { AxisPlan, ChartPlan, LayerPlan } from "../chart/plan";
import { everyVariant } from "../chart/resolve";
import { functionPartOf } from "../formula/functions/all";
import { ALL_OPERATORS } from "../formula/operators";
import { areRelated } from "../link/instances";
import { MARKS } from "../mark/draws";
import { MANY_POINTS } from "../mark/mark";
import { tabsAbove } from "../page/page";
import type { Plan } from "../plan/plan";

/** The file in which each kind of step comes, where it is not named after it. */
const STEP_FILES: Readonly<Record<string, string>> = {
  only: "columns",
  rename: "columns",
  last: "first",
  sample: "first",
  unpivot: "pivot",
  fill_forward: "fill",
  smooth: "curves",
  density: "curves",
};

/** The file in which each look of a control comes, where it is not named after it. */
const LOOK_FILES: Readonly<Record<string, string>> = {
  menus: "menu",
  at_least: "bound",
  at_most: "bound",
  above: "bound",
  below: "bound",
  stepper: "field",
  switch: "field",
  color: "field",
  text: "field",
  date: "field",
};

/** The file in which each gesture on a plot comes; others need none. */
const GESTURE_FILES: Readonly<Record<string, string>> = {
  "brush x": "brush",
  "brush y": "brush",
  "brush xy": "box",
  lasso: "lasso",
  click: "click",
  hover: "hover",
  "hover x": "hover-x",
};

/** The file in which each scale comes that is not even in its values. */
const SCALE_FILES: Readonly<Record<string, string>> = { log: "log", sqrt: "bent", symlog: "bent" };

/** The scales of an axis under any setting. */
const scalesOf = (axis: AxisPlan | undefined) =>
  axis ? [axis, ...Object.values(axis.choices?.of ?? {})].map(({ scale }) => scale) : [];

/** True for a chart with a map, or an axis along which one can look closer, under any setting. */
const canLookCloser = ({ stage, axes }: ChartPlan): boolean =>
  stage === "map" || [axes.x, axes.y].some((axis) => scalesOf(axis).some((scale) => scale !== "category"));

/**
 * True for marks of which it is asked how many lie at each place, or of which so many may be drawn that their pixels
 * are better counted: marks of single rows, from tables that are long, or that may grow in a dashboard.
 */
const canCrowd = ({ draw, options, query }: LayerPlan, { tables, opens }: Plan): boolean =>
  options.shade !== undefined ||
  (MARKS.get(draw).crowds === true &&
    !query.grouped &&
    (opens !== undefined || areRelated(tables) || tables.some(({ rowCount }) => rowCount > MANY_POINTS)));

/** Takes up the parts of all functions and operators of formulas, wherever in a plan these stand. */
function findFunctions(value: unknown, parts: Set<string>) {
  if (typeof value !== "object" || value === null) return;
  const { type, name, operator } = value as Record<string, unknown>;
  // A constant's type may be called as a function is: "number".
  if (typeof type === "string" && Object.hasOwn(ALL_OPERATORS, type)) parts.add("function-operators");
  for (const called of [type === "call" ? name : undefined, operator]) {
    const part = functionPartOf.get(called as string);
    if (part) parts.add(`function-${part}`);
  }
  for (const inner of Object.values(value)) findFunctions(inner, parts);
}

/** The parts of the viewer that a plan can reach under any setting, sorted by name. A function of the plan alone. */
export function partsOf(plan: Plan): string[] {
  const parts = new Set<string>();
  for (const { plan: piece } of plan.pieces) {
    parts.add(`piece-${piece.type}`);
    if (piece.type === "table" && piece.take.includes("xlsx")) parts.add("take-xlsx");
    if (piece.type !== "chart") continue;
    for (const chart of everyVariant(piece)) {
      for (const layer of chart.layers) {
        parts.add(`mark-${layer.draw}`);
        if (layer.looks.label || layer.query.channels.label) parts.add("words-at");
        if (canCrowd(layer, plan)) parts.add("crowd");
      }
      if (chart.stage === "map") parts.add("map");
      if (chart.top) parts.add("top");
      if (canLookCloser(chart)) parts.add("zoom");
      for (const scale of Object.values(chart.axes).flatMap(scalesOf))
        if (SCALE_FILES[scale]) parts.add(`scale-${SCALE_FILES[scale]}`);
    }
    parts.add("take-xlsx");
  }
  for (const control of plan.controls) {
    const isList = control.type === "set" && control.several;
    const look = isList ? "list" : "as" in control ? control.as : control.type;
    parts.add(`control-${LOOK_FILES[look] ?? look}`);
  }
  for (const { gesture, source } of plan.selections) {
    const file = GESTURE_FILES[gesture];
    if (file !== undefined) parts.add(`gesture-${file}`);
    if (plan.pieces.some(({ name, plan: piece }) => name === source && piece.type === "table")) parts.add("pick-rows");
  }
  if (plan.pages.some((page) => [...tabsAbove(page).values()].some((above) => above.length > 0))) parts.add("tabs");
  const opened = Object.values(plan.opens?.tables ?? {});
  for (const { steps = [] } of [...plan.tables, ...opened])
    for (const step of steps) parts.add(`step-${STEP_FILES[step.do] ?? step.do}`);
  if (areRelated(plan.tables)) parts.add("related");
  if (plan.opens) parts.add("open");
  if (opened.some(({ file }) => /\.xlsx$/i.test(file ?? ""))) parts.add("open-xlsx");
  findFunctions(plan, parts);
  return [...parts].sort();
}

/** The viewer as it is bundled: a core and parts, each the same bytes in every dashboard of a release. */
export interface ViewerKit {
  core: string;
  /** In the order in which they stand in a script: what others need before those. */
  parts: Readonly<Record<string, string>>;
  /** Parts that a part needs beside the core. */
  needs: Readonly<Record<string, readonly string[]>>;
}

/** The part that listens to the workbench; no written file has it. */
export const PROOF_PART = "proof";

/**
 * The one script of a dashboard: the core, parts in a fixed order and the start, in one scope. Throws where a part
 * is not in the kit, which is a fault of ours.
 */
export function scriptOf({ core, parts, needs }: ViewerKit, wanted: readonly string[]): string {
  const chosen = new Set<string>();
  const choose = (name: string) => {
    if (chosen.has(name)) return;
    if (parts[name] === undefined) throw new Error(`there is no part "${name}" of the viewer`);
    chosen.add(name);
    for (const needed of needs[name] ?? []) choose(needed);
  };
  for (const name of wanted) choose(name);
  const own = Object.keys(parts).filter((name) => chosen.has(name));
  return `(()=>{"use strict";${[core, ...own.map((name) => parts[name]), "wake()"].join("\n")}})()`;
}

/** The script of a plan's dashboard. */
export const scriptFor =
  (kit: ViewerKit) =>
  (plan: Plan): string =>
    scriptOf(kit, partsOf(plan));

/** The script of a proof: everything there is, so that it can take over any other plan. */
export const proofScript = (kit: ViewerKit): string => scriptOf(kit, Object.keys(kit.parts));
