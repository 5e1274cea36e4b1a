import { writer } from "../formula/format";
import { type Formula, partsOf } from "../formula/tree";
import { formatAlone } from "../query/aligned";
import type { Answer } from "../query/answer";
import { categoriesOf, nameAt } from "../query/categories";
import type { Channel } from "../query/query";
import { LayerValues } from "../query/values";
import { categoryText, writeAt, writeNumber } from "../query/write";
import type { Column, Scalar } from "../table/column";
import { ranks } from "../table/compare";
import type { FigurePlan } from "./plan";

export interface FigureTexts {
  value: string;
  unit: string;
  /** The comparison in words; empty where there is none. */
  compare: string;
  number: number;
}

/** A part in percent: some is never written as none, and less than all never as all. */
function percentText(part: number): string {
  const texts = [".0%", ".1%", ".2%"].map((format) => writer("number", format)(part));
  return texts.find((text) => (/[1-9]/.test(text) || part === 0) && (!/^100/.test(text) || part >= 1)) ?? "under 0.01%";
}

/** True if every aggregate of a formula is taken over all rows. */
export function isOfAll(formula: Formula): boolean {
  const parts = partsOf(formula);
  return (
    (formula.type === "of" && formula.selection === "all") ||
    (parts.length > 0 && parts.some(isOfAll) && parts.every((part) => isOfAll(part) || part.type === "number"))
  );
}

/** A figure, or one of several: what it is of, its words, and the values of its small line. */
export interface FigurePart {
  /** The value of the column by which figures are repeated; `null` for missing. */
  by?: string | null;
  plainBy?: Scalar;
  texts: FigureTexts;
  spark?: number[];
}

interface Answers {
  answer: Answer;
  all: Answer;
}

/** All figures of a piece in the order of their values; one where they are not repeated. */
export function figureParts(plan: FigurePlan, found: Answers, spark: Answers | undefined): FigurePart[] {
  const by = found.answer.prepared.keys.get("by");
  if (!by) {
    const line = spark && sparkValues(spark, undefined);
    return [{ texts: figureTexts(plan, found.answer, found.all), ...(line ? { spark: line } : {}) }];
  }
  const groups = new Map<string | null, number>();
  found.answer.counts.forEach((count, group) => {
    if (count > 0) groups.set(nameAt(by, group), group);
  });
  return categoriesOf(by, plan.query.channels.by?.order).flatMap(({ name, value }): FigurePart[] => {
    const group = groups.get(name);
    if (group === undefined) return [];
    const line = spark && sparkValues(spark, name);
    const texts = figureTexts(plan, found.answer, found.all, group);
    const shown = name === null ? null : categoryText(name, plan.query.channels.by);
    return [{ by: shown, plainBy: value, texts, ...(line ? { spark: line } : {}) }];
  });
}

/** The values of a small line along its stretches, of one figure or of all rows. */
function sparkValues({ answer, all }: Answers, by: string | null | undefined): number[] {
  const values = new LayerValues(answer, all);
  const [along, numbers, key] = [values.get("x"), values.numbers("value"), values.get("by")];
  if (!along || !numbers) return [];
  const places = ranks(along);
  return [...numbers.keys()]
    .filter((group) => by === undefined || (key !== undefined && nameAt(key, group) === by))
    .filter((group) => !Number.isNaN(places[group]))
    .sort((a, b) => (places[a] as number) - (places[b] as number))
    .map((group) => numbers[group] as number);
}

/** From here on decimals say nothing that is read. */
const LARGE = 1000;
const USUAL = ",.3~f";

/**
 * A number that stands alone: of a result as much as is read, unless its format says how many decimals. What it
 * differs from another by has the decimals of the number itself.
 */
function aloneText(channel: Channel, value: number, of?: number): string {
  if (channel.kind !== "number" || channel.format !== undefined) return writeNumber(channel, value);
  if (Math.abs(of ?? value) >= LARGE) return writeNumber(channel, Math.round(value));
  const format = formatAlone(of ?? value) ?? (of === undefined ? undefined : USUAL);
  return writeNumber(format === undefined ? channel : { ...channel, format }, value);
}

/** A figure as readers see it. */
export function figureTexts(plan: FigurePlan, answer: Answer, all: Answer, group = 0): FigureTexts {
  const values = new LayerValues(answer, all);
  const channel = plan.query.channels.value as Channel;
  const column = values.get("value") as Column;
  const number = column.kind === "text" ? Number.NaN : (column.values[group] as number);
  const value = column.kind === "text" ? writeAt(channel, column, group) : aloneText(channel, number);
  const texts: FigureTexts = { value, unit: channel.unit ?? "", compare: "", number };
  const against = plan.query.channels.against;
  const other = values.numbers("against")?.[group];
  if (!against || other === undefined || other !== other || number !== number) return texts;
  const what = isOfAll(against.formula) ? "all" : against.label;
  if (plan.compare === "percent")
    texts.compare = other === 0 ? "" : `${percentText(number / other).replace("%", " %")} of ${what}`;
  else {
    const size = aloneText(channel, Math.abs(number - other), number);
    // A difference that is written as nothing is none, also where the last bits differ.
    if (!/[1-9]/.test(size)) texts.compare = `the same as ${what}`;
    else
      texts.compare = `${size}${channel.unit ? ` ${channel.unit}` : ""} ${number > other ? "over" : "under"} ${what}`;
  }
  return texts;
}
