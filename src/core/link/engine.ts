import type { RowFilter } from "../formula/ordered";
import { type Formula, settingsOf, walk } from "../formula/tree";
import type { Vector } from "../formula/vector";
import { type Answer, answerQuery } from "../query/answer";
import { type AnswerWhole, answerWhole } from "../query/cache";
import { answerFinished } from "../query/finished";
import { type Prepared, type PrepareOptions, prepareQuery } from "../query/prepare";
import { formulasOf, type Query } from "../query/query";
import { type Column, gather, type Scalar } from "../table/column";
import type { Table } from "../table/table";
import { Follower } from "./index/follower";
import { HeldRows } from "./index/held";
import type { Indexer, Others, SelectionIndex } from "./index/in-hand";
import { PassingRows } from "./index/passing";
import { type EngineTable, type Instance, type Instances, instancesOf } from "./instances";
import { type FormulaColumns, selectionPass } from "./predicate";
import type { SelectionPlan, SelectionState } from "./selection";
import { SelectionStates } from "./states";

/** A question asked again and again as selections change. */
export interface Asked {
  query: Query;
  options: PrepareOptions;
  /** Names of the selections that decide which rows count. */
  filters: readonly string[];
}

/** What is known of a question from before. */
interface AskedState {
  all?: { table: Table; settings: string; answer: Answer };
  prepared: Map<string, Prepared>;
  answers: Map<string, Answer>;
}

/** So many ways in which selections stand together are kept up for one table. */
const KEPT_TOGETHER = 8;

/**
 * Holds tables, settings and selections, and answers questions about the rows that pass.
 * It has no interface and no clock: the build asks it for the first picture, the viewer for all others.
 */
export class Engine {
  private readonly settings = new Map<string, Scalar>();
  private readonly states: SelectionStates;
  private readonly instances: Instances;
  private readonly asked = new WeakMap<Asked, AskedState>();
  private readonly spoken = new WeakMap<Asked, { rows: string[]; groups: string[] }>();
  private readonly reading = new WeakMap<Query, string[]>();
  private readonly followers = new WeakMap<PassingRows, WeakMap<Prepared, Follower>>();
  /** What answers the selection that moves, or is about to. */
  private index: SelectionIndex | undefined;

  constructor(
    tables: readonly EngineTable[],
    readonly packed: ReadonlyMap<string, Table>,
    selections: readonly SelectionPlan[],
    settings: Readonly<Record<string, Scalar>>,
    private readonly whole: AnswerWhole = answerWhole,
  ) {
    this.states = new SelectionStates(selections);
    this.instances = instancesOf(tables, packed, this.states, this.setting, {
      held: (selection, instance) => this.held(selection, instance).pass,
      answer: (prepared, rows, names) => ({
        answer: this.answerHere(prepared, rows, names),
        failed: this.failedLater(rows, names),
      }),
    });
    for (const [name, value] of Object.entries(settings)) this.settings.set(name, value);
  }

  readonly setting = (name: string): Scalar => this.settings.get(name) ?? null;

  /** Only what reads a setting is made anew. */
  setSetting(name: string, value: Scalar) {
    if (this.settings.get(name) === value) return;
    this.settings.set(name, value);
    this.instances.followSetting(name);
    // What was made for questions that are asked otherwise now would only take room.
    this.index = undefined;
  }

  state(selection: string): SelectionState | undefined {
    return this.states.get(selection);
  }

  /** Sets or, with nothing, drops a selection. */
  select(selection: string, state: SelectionState | undefined) {
    this.states.set(selection, state);
  }

  isActive(selection: string): boolean {
    return this.states.isActive(selection);
  }

  /** The rows of a table with no selection on. */
  tableOf(name: string): Table {
    return this.instances.base(name).table;
  }

  /** Rows of a table before any of its steps that follows a setting; nothing where none does. */
  rowsBeforeSettings(name: string): number | undefined {
    return this.instances.rowsBeforeSettings(name);
  }

  /**
   * For each row of a table that an answer is prepared over, its row in the table with no selection on; -1 where
   * that has none.
   */
  baseRows(table: Table): Int32Array | undefined {
    return this.instances.baseRows(table);
  }

  columnsOf(name: string): FormulaColumns {
    return this.instances.base(name).columns;
  }

  /** The answer with no selection on. */
  all(asked: Asked): Answer {
    const state = this.stateOf(asked);
    const { query, options } = asked;
    const { finished } = query;
    const table = finished ? (this.packed.get(finished.table) as Table) : this.instances.base(query.from).table;
    const settings = this.settingsRead(query);
    if (state.all?.table !== table || state.all.settings !== settings) {
      const answer = finished
        ? answerFinished(query, finished, table, this.setting)
        : this.whole({ query, options, setting: this.setting, settings: this.settings }, table);
      state.all = { table, settings, answer };
      state.prepared.clear();
      state.answers.clear();
      state.prepared.set("", answer.prepared);
    }
    return state.all.answer;
  }

  /** The settings that a question reads, as they are. */
  private settingsRead(query: Query): string {
    let names = this.reading.get(query);
    if (!names) {
      names = [...new Set(formulasOf(query).flatMap((formula) => [...settingsOf(formula)]))];
      this.reading.set(query, names);
    }
    return names.length === 0 ? "" : JSON.stringify(names.map(this.setting));
  }

  /** The answer over the rows that pass the active ones among some selections. */
  answer(asked: Asked, filters: readonly string[] = asked.filters): Answer {
    const { rows, groups } = this.spokenOf(asked);
    const answer = this.answerPlain(asked, filters, rows);
    if (groups.length === 0) return answer;
    return { ...answer, of: new Map(groups.map((name) => [name, this.answerPlain(asked, [name], rows)])) };
  }

  /** Selections that a question's formulas speak of: row by row, and as rows to be aggregated. */
  private spokenOf(asked: Asked): { rows: string[]; groups: string[] } {
    let spoken = this.spoken.get(asked);
    if (!spoken) {
      const [rows, groups] = [new Set<string>(), new Set<string>()];
      for (const formula of formulasOf(asked.query)) {
        walk(formula, (node) => {
          if (node.type === "selected" || node.type === "picked") rows.add(node.selection);
          else if (node.type === "of" && node.selection !== "all") groups.add(node.selection);
        });
      }
      spoken = { rows: [...rows], groups: [...groups] };
      this.spoken.set(asked, spoken);
    }
    return spoken;
  }

  /** What formulas ask of selections, for the rows of an instance. */
  private told(instance: Instance): (node: Formula) => Vector | undefined {
    return (node) => {
      if (node.type !== "picked" && node.type !== "selected") return undefined;
      if (!this.isActive(node.selection)) return undefined;
      const plan = this.states.plan(node.selection);
      if (node.type === "picked")
        return { kind: "boolean", values: Float64Array.from(this.held(node.selection, instance).pass), step: 1 };
      const source = this.instances.base(plan.table);
      const column = source.table.columns.get(node.column);
      return column && onlyValue(column, this.held(node.selection, source).pass);
    };
  }

  private answerPlain(asked: Asked, filters: readonly string[], spoken: readonly string[]): Answer {
    const all = this.all(asked);
    const active = filters.filter((name) => this.isActive(name));
    const told = spoken.filter((name) => this.isActive(name));
    if (active.length === 0 && told.length === 0) return all;
    const state = this.stateOf(asked);
    const from = asked.query.from;
    const upstream = active.filter((name) => this.instances.entersAbove(name, from));
    const here = active.filter((name) => !upstream.includes(name));
    const key = `${this.states.signature(active)}|${this.states.signature(told)}`;
    const known = state.answers.get(key);
    if (known) return known;
    const upstreamKey = told.length
      ? `${this.states.signature(upstream)}|${this.states.signature(told)}`
      : this.states.signature(upstream);
    let prepared = state.prepared.get(upstreamKey);
    const instance = this.instances.instance(from, upstream);
    if (!prepared) {
      prepared = prepareQuery(asked.query, instance.table, this.setting, {
        ...asked.options,
        fixedEdges: all.prepared.edges,
        ...(told.length ? { given: this.told(instance) } : {}),
      });
      if (state.prepared.size > 4)
        for (const old of [...state.prepared.keys()].slice(1, -2)) state.prepared.delete(old);
      state.prepared.set(upstreamKey, prepared);
    }
    const answer = this.answerHere(prepared, instance, here);
    if (state.answers.size > 6) state.answers.delete(state.answers.keys().next().value as string);
    state.answers.set(key, answer);
    return answer;
  }

  /** Answers over the rows of an instance that pass some selections, which all enter there. */
  private answerHere(prepared: Prepared, instance: Instance, here: readonly string[]): Answer {
    if (here.length === 0) return answerQuery(prepared, null);
    const { index } = this;
    if (index && here.includes(index.selection) && this.isUnderIndex(instance)) {
      const answer = index.answer(prepared, this.others(index, instance, here), this.states.get(index.selection) ?? {});
      if (answer) return answer;
    }
    return this.followerOf(prepared, this.passing(instance, here)).answer();
  }

  /** True for the rows over which the selection in hand moves. */
  private isUnderIndex(instance: Instance): boolean {
    return this.index !== undefined && instance === this.instances.base(this.index.table);
  }

  /** The selections beside the one in hand, as its index has to know them. */
  private others({ selection }: SelectionIndex, instance: Instance, here: readonly string[]): Others {
    const names = here.filter((name) => name !== selection);
    return {
      key: this.states.signature(names),
      failed: () => (names.length ? this.passing(instance, names).failed : null),
    };
  }

  private followerOf(prepared: Prepared, rows: PassingRows): Follower {
    const own = this.followers.get(rows) ?? new WeakMap<Prepared, Follower>();
    this.followers.set(rows, own);
    const follower = own.get(prepared) ?? new Follower(prepared, rows);
    own.set(prepared, follower);
    return follower;
  }

  /** The rows of a table that pass some selections, brought to where these are. */
  private passing(instance: Instance, names: readonly string[]): PassingRows {
    const held = names.map((name) => this.held(name, instance));
    const key = names.join(" ");
    const passing = instance.passing.get(key) ?? new PassingRows(instance.table.rowCount, names.length);
    // Used last, forgotten last.
    instance.passing.delete(key);
    instance.passing.set(key, passing);
    if (instance.passing.size > KEPT_TOGETHER) instance.passing.delete(instance.passing.keys().next().value as string);
    passing.follow(held);
    return passing;
  }

  /**
   * The same as it is now, for who may ask later or never. Where selections speak of the rows themselves it follows
   * from what they hold now; where they come from elsewhere, later would be too late.
   */
  private failedLater(instance: Instance, names: readonly string[]): () => RowFilter {
    const isOwn = instance === this.instances.base(instance.name) && !instance.enters;
    if (!isOwn || names.some((name) => this.states.plan(name).table !== instance.name)) {
      const failed = this.passing(instance, names).failed.slice();
      return () => failed;
    }
    const states = names.map((name) => [this.states.plan(name), this.states.get(name) ?? {}] as const);
    return () => {
      const failed = new Uint16Array(instance.table.rowCount);
      for (const [plan, state] of states) {
        const pass = selectionPass(plan, state, instance.columns);
        for (let row = 0; row < failed.length; row++) failed[row] = (failed[row] as number) + 1 - (pass[row] as number);
      }
      return failed;
    };
  }

  /** The rows of a table that a selection holds, brought to where it is. */
  private held(name: string, instance: Instance): HeldRows {
    const version = this.states.version(name);
    const state = this.states.get(name) ?? {};
    const known = instance.held.get(name);
    if (known?.version === version) return known;
    if (!known) {
      const held = new HeldRows(this.instances.pass(name, instance).slice(), state, version);
      instance.held.set(name, held);
      return held;
    }
    const isFollowed = this.index?.selection === name && this.isUnderIndex(instance) && this.index.follow(known, state);
    if (!isFollowed) known.replace(this.instances.pass(name, instance).slice());
    known.state = state;
    known.version = version;
    return known;
  }

  /**
   * Takes a selection in hand: from now on its moves are answered from an index over its places.
   * What these cannot tell is answered by going over rows.
   */
  activate(selection: string, indexer: Indexer) {
    if (!this.states.has(selection)) return;
    const plan = this.states.plan(selection);
    const { columns } = this.instances.base(plan.table);
    const index = indexer({ plan, columns, state: this.states.get(selection) ?? {} }, this.index);
    if (index) this.index = index;
  }

  /**
   * Prepares for a question, ahead of the first move of the selection in hand, a slice of what will answer it.
   * False once nothing is left to do.
   */
  warm(asked: Asked): boolean {
    const { index } = this;
    if (!index || !asked.filters.includes(index.selection)) return false;
    const { from } = asked.query;
    const above = from === index.table ? undefined : this.instances.above(from);
    const instance = above?.rows ?? this.instances.base(from);
    if (!this.isUnderIndex(instance)) return false;
    if (index.find()) return true;
    const prepared = above?.prepared ?? this.all(asked).prepared;
    const here = asked.filters.filter(
      (name) =>
        name === index.selection ||
        (this.isActive(name) && this.instances.entersAbove(name, from) === (above !== undefined)),
    );
    const more = index.warm(prepared, this.others(index, instance, here));
    return more ?? (index.lay() || this.followerOf(prepared, this.passing(instance, here)).warm());
  }

  private stateOf(asked: Asked): AskedState {
    let state = this.asked.get(asked);
    if (!state) {
      state = { prepared: new Map(), answers: new Map() };
      this.asked.set(asked, state);
    }
    return state;
  }
}

/** The value that all chosen rows have in a column; missing where they have several, or none. */
function onlyValue(column: Column, pass: Uint8Array): Vector {
  let only = -1;
  const same = (row: number) =>
    column.kind === "text" ? column.codes[row] === column.codes[only] : column.values[row] === column.values[only];
  for (let row = 0; row < pass.length; row++) {
    const known = column.kind === "text" ? (column.codes[row] as number) >= 0 : !Number.isNaN(column.values[row]);
    if (!pass[row] || !known) continue;
    if (only >= 0 && !same(row)) {
      only = -1;
      break;
    }
    only = row;
  }
  return { ...gather(column, Int32Array.of(only)), step: 0 };
}
