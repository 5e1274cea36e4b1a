import { colorKeyOf, ownColorKey } from "../chart/color-key";
import { colorRamp } from "../chart/color-ramp";
import type { ColorScale } from "../chart/inputs";
import type { ChartPlan } from "../chart/plan";
import { everyVariant } from "../chart/resolve";
import { TooLarge } from "../finding/limits";
import { ownOf } from "../finding/own";
import { evaluate, frameOf } from "../formula/evaluate";
import { columnsOf, type Formula, selectionsOf, walk } from "../formula/tree";
import { columnOf } from "../formula/vector";
import type { SelectionPlan } from "../link/selection";
import type { PlanPiece } from "../plan/plan";
import { type Category, categoriesOf } from "../query/categories";
import type { Channel, Query } from "../query/query";
import type { Paint } from "../scene/shapes/shape";
import { PALETTES, type PaletteName, palettePaint, RAMP_NAMES, rampPaint } from "../scene/theme";
import { isMerging } from "../steps/run";
import type { SettingValues, Step } from "../steps/step";
import { type Column, isFigures } from "../table/column";
import type { Table } from "../table/table";

/** What colours are chosen from. */
export interface ColorSource {
  /** A table with no selection on. */
  tableOf: (name: string) => Table | undefined;
  /** Its rows before the first step that follows a setting; nothing where none does. */
  before: (name: string) => Table | undefined;
  /** The tables that it is made from, the nearest first, and whether rows are merged on the way from there. */
  above: (name: string) => readonly { name: string; merges: boolean }[];
  /** Whether a choice of rows changes what a piece shows. */
  isReached: (piece: string) => boolean;
  setting: SettingValues;
  /** Colours that the sheet says of the values of a column. */
  saidOf: (table: string, column: string) => Readonly<Record<string, string>> | undefined;
  /** The house's palette for categories. */
  house?: PaletteName | readonly string[];
  /** Is told of a formula that makes too much of its values, which then has no colours. */
  tooLarge: (text: string, fault: TooLarge) => void;
}

/** The tables above one on its path, the nearest first, and whether some step on the way from there merges rows. */
export function tablesAbove(
  [name = "", ...above]: readonly string[],
  stepsOf: (table: string) => readonly Step[],
): { name: string; merges: boolean }[] {
  let merges = stepsOf(name).some(isMerging);
  return above.map((one) => {
    const found = { name: one, merges };
    merges ||= stepsOf(one).some(isMerging);
    return found;
  });
}

/** Whether a piece is one of those that selections do something to. */
export function isTargetOf(selections: readonly SelectionPlan[]): (piece: string) => boolean {
  const targets = new Set(selections.flatMap(({ effects }) => effects.map(({ target }) => target)));
  return (piece) => targets.has(piece);
}

/** A colour channel of a chart, with the values that it has over all rows of its table. */
interface Use {
  piece: string;
  plan: ChartPlan;
  channel: Channel;
  from: string;
  own: Column;
  /** The table highest above in which the same values stand, its own where there is none. */
  owner: string;
  /** Values of the tables above can come into the chart as readers pick. */
  isLive: boolean;
}

/**
 * Colours are chosen once for each formula that a colour channel holds, from all rows, so that they
 * say the same thing in every chart and stay as picks change. Of tables that are made from one another a value has
 * the same colour in all; a chart that shows others than the first one of its formula has colours under its own name.
 */
export function chooseColors(pieces: readonly PlanPiece[], source: ColorSource): Record<string, ColorScale> {
  const uses = new Map<string, Use[]>();
  for (const { name, plan } of pieces) {
    if (plan.type !== "chart") continue;
    for (const variant of everyVariant(plan))
      for (const { query } of variant.layers)
        for (const use of usesOf(source, name, variant, query)) {
          const key = colorKeyOf(use.channel, variant);
          const known = uses.get(key) ?? [];
          uses.set(key, known);
          if (!known.some(({ piece, channel, from }) => piece === name && from === use.from && channel === use.channel))
            known.push(use);
        }
  }
  const colors = new Map<string, ColorScale>();
  for (const [key, all] of uses) {
    // Of charts of one table the answer is one: its rows are gone over once.
    const scales = new Map<string, ColorScale>();
    for (const use of all) {
      const told = `${use.isLive} ${use.from}`;
      const scale = scales.get(told) ?? scaleOf(source, use, all);
      scales.set(told, scale);
      const ownKey = ownColorKey(key, use.piece);
      if (!colors.has(key)) colors.set(key, scale);
      else if (colors.get(key) !== scale && !colors.has(ownKey) && !isSame(colors.get(key), scale))
        colors.set(ownKey, scale);
    }
  }
  return Object.fromEntries(colors);
}

const isSame = (one: ColorScale | undefined, other: ColorScale): boolean =>
  JSON.stringify(one) === JSON.stringify(other);

/** The colours of a layer, of each column that a reader may choose for it. */
function usesOf(source: ColorSource, piece: string, plan: ChartPlan, { channels: { color }, from }: Query): Use[] {
  const table = source.tableOf(from);
  if (!color || !table) return [];
  return (color.choices ? Object.values(color.choices.of) : [color]).flatMap((channel) => {
    const own = channel.aggregate ? undefined : colorColumn(source, channel, table);
    if (!own) return [];
    const above = source
      .above(from)
      .filter(({ name, merges }) => (!isFigures(own) || !merges) && holds(source, channel, table, name));
    const isMade = above.some(({ merges }) => merges) && source.isReached(piece);
    const follows = [from, ...above.map(({ name }) => name)].some((name) => source.before(name) !== undefined);
    return [{ piece, plan, channel, from, own, owner: above.at(-1)?.name ?? from, isLive: isMade || follows }];
  });
}

/** Whether a table above has the columns of a colour, of the same kinds. */
function holds({ tableOf }: ColorSource, { formula }: Channel, table: Table, above: string): boolean {
  const columns = tableOf(above)?.columns;
  return [...columnsOf(formula)].every(
    (name) => columns?.has(name) && columns.get(name)?.kind === table.columns.get(name)?.kind,
  );
}

/** Uses of a formula that speak of the same values: of tables made from one another, or with some values in common. */
function kinOf(use: Use, all: readonly Use[]): Use[] {
  if (isFigures(use.own)) return all.filter(({ owner, own }) => owner === use.owner && isFigures(own));
  if (all.every(({ from }) => from === use.from)) return [...all];
  const named = all.filter(({ own }) => !isFigures(own));
  const known = new Map<string, Set<string | null>>();
  const valuesOf = ({ from, own }: Use) => {
    const values = known.get(from) ?? new Set(categoriesOf(own).map(({ name }) => name));
    known.set(from, values);
    return values;
  };
  const isKin = (one: Use, other: Use) =>
    one.owner === other.owner || [...valuesOf(one)].some((name) => name !== null && valuesOf(other).has(name));
  const kin = new Set([use]);
  // Whoever is added may bring others along.
  for (const one of kin) for (const other of named) if (!kin.has(other) && isKin(one, other)) kin.add(other);
  return all.filter((one) => kin.has(one));
}

/** The colours of a channel: each value has that of its kin, and only values that can come into the chart are told. */
function scaleOf(source: ColorSource, use: Use, all: readonly Use[]): ColorScale {
  const { channel, plan, own } = use;
  const kin = kinOf(use, all);
  const [first = use] = kin;
  if (!kin.some(({ from, isLive }) => from !== first.from || isLive))
    return isFigures(own) ? rampOf(plan, own) : categoryColors(source, kin, own);
  const names = new Set(kin.flatMap(({ from, owner }) => [owner, from]));
  const tables = [...names].flatMap((name) => [source.before(name) ?? [], source.tableOf(name) ?? []].flat());
  const columns = tables.flatMap((table) => colorColumn(source, channel, table) ?? []);
  if (isFigures(own)) return rampOf(plan, columns[0] ?? own);
  const shared = categoryColors(source, kin, together([first.own, ...columns]));
  if (shared.type !== "categories" || shared.literal || use.isLive) return shared;
  const paints = new Map(shared.names.map((name, at) => [name, shared.paints[at] as Paint]));
  const shown = categoriesOf(own, channel.order).map(({ name }) => name);
  return { ...shared, names: shown, paints: shown.map((name) => paints.get(name) ?? "quiet") };
}

/** All values of some columns as one; those of the first one that has an order keep theirs. */
function together(columns: readonly Column[]): Column {
  const [first] = columns as [Column];
  const texts = columns.flatMap((column) => (column.kind === "text" ? [column] : []));
  const ordered = texts.filter((column) => column.ordered).sort((a, b) => b.dictionary.length - a.dictionary.length);
  if (first.kind !== "text") return first;
  const used = texts.flatMap(({ dictionary, codes }) => [...new Set(codes)].flatMap((code) => dictionary[code] ?? []));
  const dictionary = [...new Set([...(ordered[0]?.dictionary ?? []).filter((text) => used.includes(text)), ...used])];
  const isMissing = texts.some(({ codes }) => codes.includes(-1));
  const codes = Int32Array.from([...dictionary.keys(), ...(isMissing ? [-1] : [])]);
  return { kind: "text", dictionary, codes, ...(ordered.length ? { ordered: true as const } : {}) };
}

/** What formulas come to over tables, by the source that is asked: many charts have one colour. */
const evaluated = new WeakMap<ColorSource, Map<Table, Map<string, Column | undefined>>>();

/** The values of a colour over all rows. */
function colorColumn(source: ColorSource, { formula, text }: Channel, table: Table): Column | undefined {
  const tables = evaluated.get(source) ?? new Map<Table, Map<string, Column | undefined>>();
  evaluated.set(source, tables);
  const known = tables.get(table) ?? new Map<string, Column | undefined>();
  tables.set(table, known);
  if (known.has(text)) return known.get(text);
  let column: Column | undefined;
  try {
    column = columnOf(evaluate(formula, frameOf(table, source.setting)), table.rowCount);
  } catch (fault) {
    if (!(fault instanceof TooLarge)) throw fault;
    source.tooLarge(text, fault);
  }
  known.set(text, column);
  return column;
}

function rampOf(plan: ChartPlan, column: Column): ColorScale {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  if (column.kind !== "text") {
    for (const value of column.values) {
      if (value < low) low = value;
      if (value > high) high = value;
    }
  }
  const ramp = low <= high ? colorRamp(plan, low, high) : colorRamp(plan, 0, 1);
  return column.kind !== "text" && column.values.some(Number.isNaN) ? { ...ramp, missing: true } : ramp;
}

/** The texts that a formula itself can come to, whatever is picked. */
function resultsOf(formula: Formula): string[] {
  if (formula.type === "text") return [formula.value];
  if (formula.type !== "call" || (formula.name !== "if" && formula.name !== "coalesce")) return [];
  return formula.arguments.slice(formula.name === "if" ? 1 : 0).flatMap(resultsOf);
}

/** A column with all that its formula can come to when something is picked. */
function withResults(column: Column, formula: Formula): Column {
  if (column.kind !== "text") return column;
  const known = [...new Set(column.codes)].flatMap((code) => column.dictionary[code] ?? []);
  const dictionary = [...new Set([...known, ...resultsOf(formula)])];
  const isMissing = column.codes.includes(-1);
  return { kind: "text", dictionary, codes: Int32Array.from([...dictionary.keys(), ...(isMissing ? [-1] : [])]) };
}

const LITERAL = /^#(?:[0-9a-f]{3}|[0-9a-f]{6})$/i;

/** Values that are colours already: those of all rows, and those that the formula can come to under other settings. */
function literalColors(formula: Formula, categories: readonly Category[]): ColorScale | undefined {
  const known = categories.map(({ name }) => name).filter((name) => name !== null);
  if (known.length === 0 || !known.every((name) => LITERAL.test(name))) return undefined;
  const names = new Set(known);
  walk(formula, (node) => {
    if (node.type === "text" && LITERAL.test(node.value)) names.add(node.value);
  });
  const all = [...names, ...(known.length < categories.length ? [null] : [])];
  return { type: "categories", names: all, paints: all.map((name) => name ?? "quiet"), literal: true };
}

function categoryColors(source: ColorSource, kin: readonly Use[], column: Column): ColorScale {
  const { channel, plan } = kin[0] as Use;
  // Before anything is picked all rows are not; both answers have their colour from the start.
  const both: Column = { kind: "boolean", values: Float64Array.of(0, 1) };
  const speaks = selectionsOf(channel.formula).size > 0;
  const known = speaks ? (column.kind === "boolean" ? both : withResults(column, channel.formula)) : column;
  const categories = categoriesOf(known, channel.order);
  const literal = literalColors(channel.formula, categories);
  if (literal) return literal;
  // What the first of them says counts where several say something.
  const said = new Map<string, string>();
  for (const {
    channel: { column },
    from,
  } of kin)
    for (const [value, color] of Object.entries((column && source.saidOf(from, column)) || {}))
      if (!said.has(value)) said.set(value, color);
  const own = plan.colors;
  const listed = Array.isArray(own) ? own : undefined;
  const { house } = source;
  const named = own && typeof own === "object" && !Array.isArray(own) ? own : {};
  const ours: PaletteName = categories.length > PALETTES.quay.light.length ? "wharf" : "quay";
  const ramp = RAMP_NAMES.find((name) => name === own);
  const palette = typeof own === "string" && !ramp ? (own as PaletteName) : (house ?? ours);
  const last = categories.filter(({ name }) => name !== null).length - 1;
  let next = 0;
  const paints = categories.map(({ name }, place): Paint => {
    if (name === null) return "quiet";
    if (listed) return listed[place % listed.length] as string;
    const chosen = ownOf(named, name) ?? said.get(name);
    // A place is used up even by a value with a colour of its own, so that naming one colour leaves the others.
    const at = next++;
    if (ramp) return chosen ?? rampPaint(ramp, last > 0 ? at / last : 1);
    const paint = typeof palette === "string" ? palettePaint(palette, at) : (palette[at % palette.length] as string);
    return chosen ?? paint;
  });
  return { type: "categories", names: categories.map(({ name }) => name), paints };
}
