import type { Table } from "../table/table";
import { add } from "./add";
import { only, rename } from "./columns";
import { first } from "./first";
import { group } from "./group";
import { keep } from "./keep";
import { sort } from "./sort";
import type { SettingValues, Step, StepResult } from "./step";
import { unique } from "./unique";

/** Runs one step. Pure: the same table, step and settings give the same result, at build time and in a dashboard. */
export function runStep(step: Step, table: Table, setting: SettingValues): StepResult {
  switch (step.do) {
    case "keep":
      return keep(step, table, setting);
    case "add":
      return add(step, table, setting);
    case "only":
      return only(step, table);
    case "rename":
      return rename(step, table);
    case "unique":
      return unique(step, table);
    case "group":
      return group(step, table, setting);
    case "sort":
      return sort(step, table, setting);
    case "first":
    case "last":
      return first(step, table, setting);
  }
}
