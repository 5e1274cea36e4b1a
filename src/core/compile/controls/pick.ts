import { lookSpec, PICK_LOOKS, type PickLookName } from "../../control/index";
import type { PickLook } from "../../control/look";
import { listed } from "../../finding/nearest";
import type { PickControlPlan } from "../../plan/plan";
import type { Channel } from "../../query/query";
import { type ReadChannel, readChannel } from "../channels";
import type { BuiltTable } from "../compiling";
import { nameOfWritten, readValue } from "../start";
import { type ControlDraft, tableOf, wrongControl } from "./draft";

const isCategory = ({ kind }: Channel) => kind === "text" || kind === "boolean";

/** Looks by which a value is set, and the one that picks rows most like it. */
const PICKS_LIKE: Partial<Record<string, string>> = {
  slider: "range",
  stepper: "at_least",
  date: "dates",
  switch: "radio",
};

/** Checks a control that picks rows; nothing where it cannot be shown. */
export function readPick(draft: ControlDraft): PickControlPlan | undefined {
  const { compiling, name, spec } = draft;
  const built = tableOf(draft);
  if (!built) return undefined;
  const place = { compiling, path: ["controls", name, "pick"], tableName: built.name, table: built.table, piece: name };
  const read = readChannel(place, spec.pick as string, { aggregates: "none" });
  if (!read) return undefined;
  const { channel } = read;
  const as = spec.as ?? (isCategory(channel) ? "checkboxes" : "range");
  const { pick } = lookSpec(as);
  if (!pick)
    return wrongControl(
      draft,
      "as",
      "wrong-value",
      `rows are picked by ${listed(PICK_LOOKS, 20)}; ${as} sets a value`,
      PICKS_LIKE[as],
    );
  const problem = pick.fits(channel);
  if (problem !== undefined) return wrongControl(draft, "as", "wrong-kind", problem);
  const control: PickControlPlan = {
    type: "pick",
    name,
    label: spec.label ?? channel.label,
    as: as as PickLookName,
    holds: pick.holds,
    ...(pick.end ? { end: pick.end } : {}),
    from: built.name,
    channel,
    none: spec.none ?? (spec.start === "all" ? "nothing" : "all"),
    all: spec.all ?? true,
  };
  return withStart(draft, withOptions(draft, control, read, built, pick), pick);
}

/** Adds what only some looks have; says what does not go with the one chosen. */
function withOptions(
  draft: ControlDraft,
  control: PickControlPlan,
  { channel }: ReadChannel,
  built: BuiltTable,
  pick: PickLook,
): PickControlPlan {
  const { spec } = draft;
  const split = channel.column === undefined ? undefined : built.table.info.get(channel.column)?.split;
  if (split !== undefined && isCategory(channel)) control.split = split;
  const wrong = (key: "range" | "step" | "scale" | "most" | "act" | "of", where: string) => {
    if (spec[key] !== undefined) wrongControl(draft, key, "wrong-key", `"${key}" goes with ${where}`);
  };
  wrong("of", "set:, not with pick:");
  if (pick.holds === "values") {
    for (const key of ["range", "step", "scale", "act"] as const) wrong(key, "ranges");
    if (!pick.many) wrong("most", "looks that pick several values");
    else if (spec.most !== undefined) control.most = spec.most;
    return control;
  }
  wrong("most", "lists of values");
  if (spec.range) {
    const ends = spec.range.map((text) => readValue(channel.kind, text)) as [number, number];
    if (ends[0] < ends[1]) control.range = ends;
    else
      wrongControl(draft, "range", "wrong-value", `[${spec.range.join(", ")}] are not two ends for a ${channel.kind}`);
  }
  if (spec.step !== undefined) control.step = spec.step;
  if (spec.scale === "log") control.log = true;
  if (spec.act) control.onRelease = true;
  return control;
}

/** Adds what is picked at the start, as the column knows it. */
function withStart(draft: ControlDraft, control: PickControlPlan, pick: PickLook): PickControlPlan | undefined {
  const { spec } = draft;
  const { start } = spec;
  if (start === undefined) return control;
  if (start === "all") {
    if (pick.holds === "values") control.full = true;
    return control;
  }
  const wrong = (message: string) => wrongControl(draft, "start", "wrong-value", message);
  if (pick.holds === "bound") {
    const one = typeof start === "string" ? start : Array.isArray(start) ? start[0] : (start.from ?? start.to);
    if (typeof one !== "string" || Number.isNaN(readValue(control.channel.kind, one)))
      return wrong(`${control.as} starts with one value of ${control.channel.text}`);
    control.start = [one];
    return control;
  }
  if (pick.holds === "range") {
    const ends =
      typeof start === "string" ? [start] : Array.isArray(start) ? start : [start.from ?? "", start.to ?? ""];
    if (ends.length !== 2 || !ends.every((one) => typeof one === "string"))
      return wrong("a range starts with two ends, [from, to]");
    control.start = ends;
    return control;
  }
  if (typeof start === "object" && !Array.isArray(start)) return wrong("{from, to} goes with ranges");
  control.start = [];
  for (const text of Array.isArray(start) ? start : [start]) {
    if (typeof text !== "string") return wrong("conditions go with pick: any; values are written by themselves");
    const written = nameOfWritten(control.channel.kind, text);
    if (written === undefined)
      return wrong(`${text} is no value of ${control.channel.text}, which holds ${control.channel.kind}`);
    control.start.push(written);
  }
  if (control.most !== undefined && control.start.length > control.most)
    return wrong(`at most ${control.most} values can be picked`);
  return control;
}
