import type { ControlPlan, PickControlPlan, SettingPlan } from "../plan/plan";
import type { ControlSpec } from "../sheet/schema";
import { SET_LOOKS } from "../sheet/schema";
import { readChannel, spaced } from "./channels";
import { addFinding, type Compiling } from "./compiling";
import { nameOfWritten } from "./start";
import { unknownTable } from "./tables";

const NUMBER = /^[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?$/;

/** Reads the settings first: tables and formulas need their kinds. */
export function readSettings(compiling: Compiling) {
  for (const [name, spec] of compiling.sheet.controls) {
    if (spec.set === undefined) continue;
    compiling.settings.set(name, settingOf(spec));
  }
}

function settingOf(spec: ControlSpec): SettingPlan {
  const start = spec.set as string;
  const numbers = NUMBER.test(start) && (spec.of ?? []).every((value) => NUMBER.test(value));
  const of = spec.of ? { of: spec.of } : {};
  if (numbers) return { kind: "number", start: Number(start) };
  if (start === "true" || start === "false") return { kind: "boolean", start: start === "true" };
  return { kind: "text", start, ...of };
}

/** Checks a control; nothing where it cannot be shown. */
export function readControl(compiling: Compiling, name: string, spec: ControlSpec): ControlPlan | undefined {
  const path = ["controls", name];
  const wrong = (key: string | undefined, code: string, message: string) => {
    addFinding(compiling, key === undefined ? path : [...path, key], code, message, { piece: name });
    return undefined;
  };
  if ((spec.pick === undefined) === (spec.set === undefined))
    return wrong(undefined, "control-kind", "a control needs either pick: (to choose rows) or set: (to set a value)");
  const label = spec.label ?? spaced(name);
  if (spec.set !== undefined) {
    for (const key of ["from", "none", "only", "fade"] as const)
      if (spec[key] !== undefined) wrong(key, "wrong-key", `"${key}" goes with pick:, not with set:`);
    const setting = compiling.settings.get(name) as SettingPlan;
    const look = spec.as ?? (spec.of ? "menu" : "slider");
    if (!(SET_LOOKS as readonly string[]).includes(look))
      return wrong("as", "wrong-value", `a setting is shown as ${SET_LOOKS.join(" or ")}`);
    if (look === "menu") {
      if (!spec.of) return wrong(undefined, "key-missing", "a menu needs its values: of: [...]");
      if (!spec.of.includes(spec.set))
        return wrong("set", "wrong-value", `"${spec.set}" is not one of ${spec.of.join(", ")}`);
      return { type: "set", name, label, as: "menu", of: spec.of };
    }
    if (setting.kind !== "number") return wrong("set", "wrong-kind", "a slider sets a number");
    if (!spec.range) return wrong(undefined, "key-missing", "a slider needs its ends: range: [from, to]");
    const [low, high] = spec.range as [number, number];
    if (!(low < high) || (setting.start as number) < low || (setting.start as number) > high)
      return wrong("range", "wrong-value", `the start ${setting.start} must lie between ${low} and ${high}`);
    return { type: "set", name, label, as: "slider", range: [low, high], step: spec.step ?? niceStep(low, high) };
  }
  for (const key of ["range", "step", "of"] as const)
    if (spec[key] !== undefined) wrong(key, "wrong-key", `"${key}" goes with set:, not with pick:`);
  if (spec.from === undefined) return wrong(undefined, "key-missing", "a pick needs from: and the name of its table");
  const built = compiling.tables.get(spec.from);
  if (!built) {
    if (!compiling.sheet.tables.has(spec.from) && !compiling.sheet.broken.has(`tables.${spec.from}`))
      unknownTable(compiling, [...path, "from"], spec.from, name);
    return undefined;
  }
  compiling.used.add(`tables.${spec.from}`);
  const read = readChannel(
    { compiling, path: [...path, "pick"], tableName: spec.from, table: built.table, piece: name },
    spec.pick as string,
    { aggregates: "none" },
  );
  if (!read) return undefined;
  const { channel } = read;
  const category = channel.kind === "text" || channel.kind === "boolean";
  const look = spec.as ?? (category ? "checkboxes" : "range");
  if (look === "slider")
    return wrong("as", "wrong-value", "rows are picked by checkboxes, menu or range; a slider sets a value");
  if (look === "range" && category)
    return wrong(
      "as",
      "wrong-kind",
      `a range needs numbers or dates, and ${channel.text} holds ${channel.kind}; use checkboxes or menu`,
    );
  const start = spec.start === undefined ? undefined : Array.isArray(spec.start) ? spec.start : [spec.start];
  if (start && look === "range" && start.length !== 2)
    return wrong("start", "wrong-value", "a range starts with two ends, [from, to]");
  const control: PickControlPlan = {
    type: "pick",
    name,
    label: spec.label ?? channel.label,
    as: look,
    from: spec.from,
    channel,
    none: spec.none ?? "all",
  };
  const split = channel.column === undefined ? undefined : built.table.info.get(channel.column)?.split;
  if (split !== undefined && category) control.split = split;
  if (!start) return control;
  control.start = [];
  for (const text of start) {
    const written = look === "range" ? text : nameOfWritten(channel.kind, text);
    if (written === undefined)
      return wrong("start", "wrong-value", `${text} is no value of ${channel.text}, which holds ${channel.kind}`);
    control.start.push(written);
  }
  return control;
}

function niceStep(low: number, high: number): number {
  const rough = (high - low) / 100;
  return rough >= 1 ? Math.max(1, Math.round(rough)) : 10 ** Math.floor(Math.log10(rough));
}
