"use client";

import type { ComponentType } from "react";
import type { TrayName } from "../../desk/trays";
import { FillTray, FrequentTray, RenameTray, ValuesTray } from "./column-trays";
import { GroupTray } from "./group-tray";
import {
  JoinTray,
  NewColumnTray,
  PivotTray,
  RuleTray,
  SampleTray,
  SortTray,
  StackTray,
  TextTray,
  UniqueTray,
  UnpivotTray,
} from "./table-trays";
import type { TrayProps } from "./tray-kit";
import { ColorsTray, KindTray, WordsTray } from "./word-trays";

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
} satisfies Record<TrayName, ComponentType<TrayProps>>;
