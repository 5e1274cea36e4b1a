import { writer } from "../formula/format";
import { type Formula, partsOf } from "../formula/tree";
import type { Answer } from "../query/answer";
import type { Channel } from "../query/query";
import { LayerValues } from "../query/values";
import { writeAt, writeNumber } from "../query/write";
import type { Column } from "../table/column";
import type { FigurePlan } from "./plan";

export interface FigureTexts {
  value: string;
  unit: string;
  /** The comparison in words; empty where there is none. */
  compare: string;
  number: number;
}

const percentText = writer("number", ".0%");

/** True if every aggregate of a formula is taken over all rows. */
function isOfAll(formula: Formula): boolean {
  const parts = partsOf(formula);
  return (
    (formula.type === "of" && formula.selection === "all") ||
    (parts.length > 0 && parts.some(isOfAll) && parts.every((part) => isOfAll(part) || part.type === "number"))
  );
}

/** A figure as readers see it. */
export function figureTexts(plan: FigurePlan, answer: Answer, all: Answer): FigureTexts {
  const values = new LayerValues(answer, all);
  const channel = plan.query.channels.value as Channel;
  const column = values.get("value") as Column;
  const number = column.kind === "text" ? Number.NaN : (column.values[0] as number);
  const texts: FigureTexts = { value: writeAt(channel, column, 0), unit: channel.unit ?? "", compare: "", number };
  const against = plan.query.channels.against;
  const other = values.numbers("against")?.[0];
  if (!against || other === undefined || other !== other || number !== number) return texts;
  const what = isOfAll(against.formula) ? "all" : against.label;
  if (plan.compare === "percent")
    texts.compare = other === 0 ? "" : `${percentText(number / other).replace("%", " %")} of ${what}`;
  else {
    const size = writeNumber(channel, Math.abs(number - other));
    // A difference that is written as nothing is none, also where the last bits differ.
    if (/^0(?:[.,:]0*)*$/.test(size)) texts.compare = `the same as ${what}`;
    else
      texts.compare = `${size}${channel.unit ? ` ${channel.unit}` : ""} ${number > other ? "over" : "under"} ${what}`;
  }
  return texts;
}
