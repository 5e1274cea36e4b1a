import type { SelectionPlan } from "../link/selection";
import { type ColorSource, isTargetOf, tablesAbove } from "../model/colors";
import type { Table } from "../table/table";
import { ancestry, type Compiling, settingValue } from "./compiling";
import { usesSettings } from "./steps";

/** A table as it is before its first step that follows a setting; nothing where none does. */
function beforeSettings({ tables, stages }: Compiling, name: string): Table | undefined {
  const cut = tables.get(name)?.steps.findIndex(usesSettings) ?? -1;
  return cut < 0 ? undefined : stages.get(name)?.tables[cut];
}

/** Colours as they follow from the tables of a sheet; a formula that makes too much of them is a finding. */
export const colorSourceOf = (compiling: Compiling, selections: readonly SelectionPlan[]): ColorSource => {
  const { palette } = compiling.sheet.style;
  return {
    tableOf: (name) => compiling.tables.get(name)?.table,
    before: (name) => beforeSettings(compiling, name),
    above: (name) => tablesAbove(ancestry(compiling, name), (one) => compiling.tables.get(one)?.steps ?? []),
    isReached: isTargetOf(selections),
    setting: settingValue(compiling),
    saidOf: (table, column) => compiling.tables.get(table)?.table.info.get(column)?.colors,
    ...(palette === undefined ? {} : { house: palette }),
    tooLarge: (text, fault) =>
      void compiling.findings.push({
        code: "too-large",
        severity: "error",
        message: `the colour ${text} cannot be worked out: ${fault.message}`,
      }),
  };
};
