import { checkboxes, menu, menus, radio } from "./lists";
import type { LookSpec } from "./look";
import { above, atLeast, atMost, below, dates, range } from "./ranges";
import { color, date, slider, stepper, text, toggle } from "./values";

/** All looks of controls, as the language names them. */
const SPECS = [
  checkboxes,
  menu,
  menus,
  radio,
  range,
  dates,
  atLeast,
  atMost,
  above,
  below,
  slider,
  stepper,
  toggle,
  color,
  text,
  date,
] as const;

type Spec = (typeof SPECS)[number];
export type LookName = Spec["name"];
export type PickLookName = Extract<Spec, { pick: object }>["name"];
export type SetLookName = Extract<Spec, { set: object }>["name"];

const ALL: readonly LookSpec[] = SPECS;

export const LOOKS: readonly LookName[] = SPECS.map(({ name }) => name);
export const PICK_LOOKS = ALL.filter(({ pick }) => pick).map(({ name }) => name as PickLookName);
export const SET_LOOKS = ALL.filter(({ set }) => set).map(({ name }) => name as SetLookName);

export const lookSpec = (name: LookName): LookSpec => ALL.find((spec) => spec.name === name) as LookSpec;
