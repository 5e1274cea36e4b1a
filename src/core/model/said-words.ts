import { leadingLayer } from "../chart/leading";
import { heldWords, type WordPart } from "../chart/words";
import type { Engine } from "../link/engine";
import { selectionPass } from "../link/predicate";
import type { SelectionPlan } from "../link/selection";
import type { Plan } from "../plan/plan";
import { MISSING_NAME, nameAt } from "../query/categories";
import { LayerValues } from "../query/values";
import { writeAt } from "../query/write";
import type { PieceQuestions } from "./piece-questions";

/** More rows than this are said by their number. */
const MOST_NAMED = 3;

/** Says what stands in braces in the words of a dashboard: values, settings, what selections hold. */
export class SaidWords {
  constructor(
    private readonly plan: Plan,
    private readonly engine: Engine,
    private readonly selections: ReadonlyMap<string, SelectionPlan>,
  ) {}

  /** The words around a piece, with the values that stand in them. */
  texts({ piece: { live, words }, live: asked }: PieceQuestions): Record<string, string> {
    const texts: Record<string, string> = {};
    for (const [key, text] of Object.entries(words)) if (typeof text === "string") texts[key] = text;
    if (!live || !asked) return texts;
    const values = Object.keys(live.query.channels).length
      ? new LayerValues(this.engine.answer(asked), this.engine.all(asked))
      : undefined;
    const said = (part: WordPart): string => {
      if (typeof part === "string" || !("channel" in part)) return this.say(part);
      const channel = live.query.channels[part.channel];
      const column = values?.get(part.channel);
      return channel && column ? writeAt(channel, column, 0) : "";
    };
    for (const [key, parts] of Object.entries(live.parts)) texts[key] = parts.map(said).join("");
    return texts;
  }

  /** A part of a text that is the same wherever it stands: words, a setting, what a selection holds. */
  say(part: Exclude<WordPart, { channel: string }>): string {
    if (typeof part === "string") return part;
    return "setting" in part
      ? this.settingWords(part.setting)
      : heldWords(this.valuesHeld(part.selection, part.column));
  }

  /** The word by which readers know what a setting is. */
  private settingWords(name: string): string {
    const value = String(this.engine.setting(name) ?? "");
    const control = this.plan.controls.find((one) => one.name === name);
    return (control?.type === "set" ? control.of?.find((one) => one.value === value)?.label : undefined) ?? value;
  }

  /** Rows picked on a chart by the labels that they have there, where these are few and a column's: "town is Garth". */
  rowNames({ source, table }: SelectionPlan, rows: readonly number[]): string | undefined {
    const chart = this.plan.pieces.find(({ name }) => name === source)?.plan;
    if (chart?.type !== "chart" || rows.length > MOST_NAMED) return undefined;
    const { from, grouped, channels } = leadingLayer(chart).query;
    const channel = channels.label ?? channels.identity;
    if (from !== table || grouped || channel?.column === undefined) return undefined;
    const column = this.engine.columnsOf(table).get(channel.formula);
    return `${channel.label} is ${rows.map((row) => writeAt(channel, column, row)).join(" or ")}`;
  }

  /** The different values that the rows of a selection have in a column, by name; nothing where nothing is selected. */
  private valuesHeld(name: string, columnName: string): string[] | undefined {
    const plan = this.selections.get(name);
    const state = this.engine.state(name);
    if (!plan || !state) return undefined;
    const source = this.engine.columnsOf(plan.table);
    const column = source.table.columns.get(columnName);
    if (!column) return undefined;
    const pass = selectionPass(plan, state, source);
    const names = new Set<string>();
    for (let row = 0; row < pass.length; row++) if (pass[row]) names.add(nameAt(column, row) ?? MISSING_NAME);
    return [...names];
  }
}
