import type { ColorSource } from "../model/colors";
import { type Compiling, settingValue } from "./compiling";

/** Colours as they follow from the tables of a sheet; a formula that makes too much of them is a finding. */
export const colorSourceOf = (compiling: Compiling): ColorSource => {
  const { palette } = compiling.sheet.style;
  return {
    tableOf: (name) => compiling.tables.get(name)?.table,
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
