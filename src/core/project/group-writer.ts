import { freeName } from "../advice/write-suggestions";
import type { ColorScale } from "../chart/inputs";
import type { SortedName } from "../chart/questions";
import { valueText } from "../chart/tooltip";
import { printFormula } from "../formula/print";
import { mapFormula } from "../formula/tree";
import type { Asked } from "../link/engine";
import type { Model } from "../model/model";
import { nameAt, plainValue } from "../query/categories";
import type { Channel } from "../query/query";
import { isSummed } from "../query/summed";
import { LayerValues } from "../query/values";
import type { SheetValue } from "../sheet/edit/edit";
import { type Column, kindOf } from "../table/column";
import { plainName } from "../table/column-names";
import { makeTable, type Table } from "../table/table";
import { RowsBeyond } from "./rows-beyond";

/** A table of the groups that were packed of a piece, and what its columns are. */
export interface GroupTable {
  name: string;
  table: Table;
  columns: { [column: string]: SheetValue };
  /** Only rows where this is true are groups. */
  keep?: string;
}

/** What the sheet says of a column's values, wherever the column comes from. */
export type SaidOf = (table: string, column: string) => { colors?: Record<string, string> } | undefined;

/** Names for the columns of new tables; the same formula has the same name in all tables of a piece. */
export class ColumnNames {
  private readonly names = new Map<string, string>();

  /** `wish` if nothing else has that name yet. */
  of(text: string, wish: string): string {
    const known = this.names.get(text);
    if (known !== undefined) return known;
    const name = freeName(wish, new Set(this.names.values()));
    this.names.set(text, name);
    return name;
  }
}

/** Formulas of one question over the table of its groups. */
export class GroupWriter {
  readonly columns = new Map<string, Column>();
  readonly words: GroupTable["columns"] = {};
  private readonly values: LayerValues;
  private readonly beyond = new RowsBeyond();

  constructor(
    private readonly asked: Asked,
    model: Model,
    private readonly names: ColumnNames,
    private readonly saidOf: SaidOf,
  ) {
    const { engine } = model;
    this.values = new LayerValues(engine.all(asked), engine.all(asked));
  }

  get rowCount(): number {
    return this.values.prepared.groupCount;
  }

  get channels(): Readonly<Record<string, Channel>> {
    return this.asked.query.channels;
  }

  private add(name: string, column: Column, channel: Channel) {
    if (this.columns.has(name)) return;
    this.columns.set(name, column);
    const { label, unit, format, image } = channel;
    const order = channel.order ?? (column.kind === "text" && column.ordered ? column.dictionary : undefined);
    const colors =
      channel.column === undefined ? undefined : this.saidOf(this.asked.query.from, channel.column)?.colors;
    this.words[name] = {
      type: kindOf(column),
      ...(label === name.replaceAll("_", " ") ? {} : { label }),
      ...(unit === undefined ? {} : { unit }),
      ...(format === undefined ? {} : { format }),
      ...(order ? { order: [...order] } : {}),
      ...(image ? { role: "image" } : {}),
      ...(colors ? { colors } : {}),
    };
  }

  /** The formula of a channel over the groups; its column is added to the table. */
  formula(name: string): string {
    const channel = this.asked.query.channels[name] as Channel;
    return this.asked.query.groupBy.includes(name) ? this.key(name, channel) : this.measure(name, channel);
  }

  /** The same for a line of a tooltip, where a group that has several values says how many. */
  tip(name: string): string {
    const channel = this.asked.query.channels[name] as Channel;
    const counts = channel.several === undefined ? undefined : this.values.numbers(channel.several);
    if (!counts?.some((count) => count > 1)) return this.formula(name);
    const own = this.names.of(`words ${channel.text}`, plainName(channel.text));
    const said = Array.from({ length: this.rowCount }, (_, group) => valueText(channel, this.values, name, group));
    const dictionary = [...new Set(said)];
    const codes = Int32Array.from(said, (text) => dictionary.indexOf(text));
    const { format: _, order: __, column: ___, ...words } = channel;
    this.add(own, { kind: "text", dictionary, codes }, words);
    return `first(${printFormula({ type: "column", name: own })})`;
  }

  /** The one value of a channel, as it is written in words. */
  valueIn(name: string): string {
    return valueText(this.asked.query.channels[name] as Channel, this.values, name, 0);
  }

  /** A colour by groups, whose scale was chosen from all rows: it is chosen from the same values again. */
  colored(name: string, scale: ColorScale | undefined): string {
    const formula = this.formula(name);
    const channel = this.asked.query.channels[name] as Channel;
    const own = this.keyName(channel);
    const column = this.columns.get(own);
    if (!scale || !column || channel.aggregate || channel.interval) return formula;
    if (scale.type === "ramp") this.beyond.add(own, [scale.low, scale.high], scale.low);
    else {
      const there = new Set(Array.from({ length: this.rowCount }, (_, group) => nameAt(column, group)));
      // A boolean is told by its number.
      const told = (value: string | null) =>
        value === null ? undefined : column.kind === "text" ? value : Number(value === "true");
      const fill = scale.names.includes(null) ? undefined : told(scale.names[0] as string);
      this.beyond.add(own, scale.names.filter((value) => !there.has(value)).map(told), fill);
    }
    return formula;
  }

  /** A number that stands in one row behind those of other groups, under a name that none of these has. */
  behind(name: string): string {
    const channel = this.asked.query.channels[name] as Channel;
    const own = this.names.of(`${name} ${channel.text}`, `${name}_${plainName(channel.text)}`);
    this.add(own, this.values.get(name) as Column, channel);
    return `last(${printFormula({ type: "column", name: own })})`;
  }

  /** A key stays what it was: a column, or its bins and periods, whose starts are in the same ones. */
  private key(name: string, channel: Channel): string {
    const { formula, interval, text } = channel;
    const column = this.values.get(name) as Column;
    if (!interval) {
      const own = this.keyName(channel);
      this.add(own, column, channel);
      return printFormula({ type: "column", name: own });
    }
    const of = printFormula(interval.of);
    const own = this.names.of(text, interval.of.type === "column" ? interval.of.name : plainName(of));
    this.add(own, interval.type === "bin" ? this.withEnd(name, own, column) : column, channel);
    return printFormula(
      mapFormula(formula, (node) => (printFormula(node) === of ? { type: "column", name: own } : undefined)),
    );
  }

  /** The first categories and one for the rest are others than those of which they were made. */
  private keyName({ formula, text, rest }: Channel): string {
    const wish = formula.type === "column" ? formula.name : plainName(text);
    return this.names.of(rest === undefined ? text : `${text} or ${rest}`, wish);
  }

  /**
   * Starts of equal bins, the last of which is told by its end: so they have the extent that all rows had. Where
   * the first or the last have no group, rows `beyond` have both ends.
   */
  private withEnd(name: string, own: string, column: Column): Column {
    const edges = this.values.prepared.edges.get(name);
    if (column.kind === "text" || !edges) return column;
    const [first, last] = [edges.starts[0] as number, edges.starts[edges.starts.length - 1] as number];
    if (!column.values.includes(first) || !column.values.includes(last)) this.beyond.add(own, [first, edges.end]);
    return { ...column, values: column.values.map((value) => (value === last ? edges.end : value)) };
  }

  /** A measure is the one number of its group. */
  private measure(name: string, channel: Channel): string {
    const own = this.names.of(channel.text, plainName(channel.text));
    this.add(own, this.values.get(name) as Column, channel);
    const column = printFormula({ type: "column", name: own });
    return isSummed(channel) ? `sum(${column})` : `first(${column})`;
  }

  /** A column of a data table: it is shown as it stands, under the name that it had. */
  shown(channel: string, key: string): string {
    this.add(key, this.values.get(channel) as Column, this.asked.query.channels[channel] as Channel);
    return printFormula({ type: "column", name: key });
  }

  /** What categories of an axis are sorted by, beside each group that has the category. */
  sortedBy(axis: SortedName, sort: Asked, model: Model): string {
    const all = model.engine.all(sort);
    const values = new LayerValues(all, all);
    const [keys, by] = [values.get("key") as Column, values.get("by") as Column];
    const places = new Map<unknown, number>();
    for (let group = 0; group < all.prepared.groupCount; group++) places.set(plainValue(keys, group), group);
    const own = this.values.get(axis) as Column;
    const numbers = by.kind === "text" ? by.codes : by.values;
    const column: Column = {
      kind: "number",
      values: Float64Array.from({ length: this.rowCount }, (_, group) => {
        const place = places.get(plainValue(own, group));
        return place === undefined ? Number.NaN : (numbers[place] as number);
      }),
    };
    const name = this.names.of(`sort ${axis}`, `sort_${axis}`);
    this.columns.set(name, column);
    return `max(${printFormula({ type: "column", name })})`;
  }

  /** The table of all columns that were asked for so far. */
  table(name: string): GroupTable {
    if (this.columns.size === 0)
      this.columns.set(
        "row",
        numberColumn(this.rowCount, (at) => at + 1),
      );
    const { count } = this.beyond;
    if (count === 0) return this.tableOf(name, this.rowCount, this.columns);
    const here = this.names.of("here", "here");
    const all = new Map([...this.columns].map(([key, column]) => [key, this.beyond.behind(key, column)]));
    all.set(
      here,
      numberColumn(this.rowCount + count, (row) => (row < this.rowCount ? 1 : Number.NaN)),
    );
    const keep = `known(${printFormula({ type: "column", name: here })})`;
    return { ...this.tableOf(name, this.rowCount + count, all), keep };
  }

  private tableOf(name: string, rowCount: number, columns: ReadonlyMap<string, Column>): GroupTable {
    for (const [key, column] of columns) this.words[key] ??= { type: kindOf(column) };
    return { name, table: makeTable(rowCount, columns), columns: this.words };
  }
}

const numberColumn = (length: number, value: (row: number) => number): Column => ({
  kind: "number",
  values: Float64Array.from({ length }, (_, row) => value(row)),
});
