import { writeName } from "../../formula/words";
import { valuesIn } from "../../table/column";
import { type Advice, isText } from "./chart-view";

/** Several values in one cell are parted by picks; a chart groups by whole cells. */
export const wholeCells: Advice = {
  code: "whole-cells",
  find({ compiling, plan, values }) {
    for (const { query } of plan.layers)
      for (const [key, channel] of Object.entries(query.channels)) {
        const { column } = channel;
        const split =
          column === undefined ? undefined : compiling.tables.get(query.from)?.table.info.get(column)?.split;
        if (!query.grouped || column === undefined || split === undefined || !isText(channel)) continue;
        const cells = values(channel);
        const cell =
          cells?.kind === "text" ? cells.dictionary.find((one) => valuesIn(one, split).length > 1) : undefined;
        if (cell === undefined) continue;
        const areWords = valuesIn(cell, split).every((value) => /^\p{L}+$/u.test(value));
        const way = areWords
          ? `a table made by the step words: {of: ${writeName(column)}} has a row for each of its words`
          : `check boxes that pick ${writeName(column)} part them, with their counts`;
        return {
          at: [key],
          message: `each ${channel.label} here is a whole cell, such as "${cell}"; ${way}`,
          marks: { channels: [key], values: [[cell]] },
        };
      }
    return undefined;
  },
};
