"use client";

import type { ComponentType } from "react";
import { ColorsTray, FillTray, FrequentTray, KindTray, RenameTray, ValuesTray, WordsTray } from "./column-trays";
import { GroupTray, JoinTray, NewColumnTray, PivotTray, RuleTray, SampleTray, SortTray, StackTray, TextTray, UniqueTray, UnpivotTray } from "./table-trays";
import type { TrayProps } from "./tray-kit";

/** Every tray by the word that opens it. */
export const TRAYS = {
  rename: RenameTray,
  kind: KindTray,
  values: ValuesTray,
  frequent: FrequentTray,
  fill: FillTray,
  words: WordsTray,
  colours: ColorsTray,
  column: NewColumnTray,
  rule: RuleTray,
  unique: UniqueTray,
  group: GroupTray,
  long: UnpivotTray,
  wide: PivotTray,
  join: JoinTray,
  stack: StackTray,
  sort: SortTray,
  sample: SampleTray,
  text: TextTray,
} satisfies Record<string, ComponentType<TrayProps>>;

export type TrayName = keyof typeof TRAYS;

/** Steps that are about the whole table, as they are offered at the foot of the stream. */
export const WHOLE_TABLE: readonly (readonly [TrayName, string])[] = [
  ["rule", "keep by a rule"],
  ["column", "new column"],
  ["unique", "drop duplicates"],
  ["group", "group"],
  ["long", "make long"],
  ["wide", "make wide"],
  ["join", "look up"],
  ["stack", "stack"],
  ["sort", "sort"],
  ["sample", "sample"],
  ["text", "as text"],
];
