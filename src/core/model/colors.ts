import { colorKeyOf } from "../chart/color-key";
import { colorRamp } from "../chart/color-ramp";
import type { ColorScale } from "../chart/inputs";
import type { ChartPlan } from "../chart/plan";
import { everyVariant } from "../chart/resolve";
import { TooLarge } from "../finding/limits";
import { evaluate, frameOf } from "../formula/evaluate";
import { type Formula, selectionsOf, walk } from "../formula/tree";
import { columnOf } from "../formula/vector";
import type { PlanPiece } from "../plan/plan";
import { type Category, categoriesOf } from "../query/categories";
import type { Channel, Query } from "../query/query";
import type { Paint } from "../scene/shapes/shape";
import { PALETTES, type PaletteName, palettePaint, RAMP_NAMES, rampPaint } from "../scene/theme";
import type { SettingValues } from "../steps/step";
import type { Column } from "../table/column";
import type { Table } from "../table/table";

/** What colours are chosen from. */
export interface ColorSource {
  /** A table with no selection on. */
  tableOf: (name: string) => Table | undefined;
  setting: SettingValues;
  /** Colours that the sheet says of the values of a column. */
  saidOf: (table: string, column: string) => Readonly<Record<string, string>> | undefined;
  /** The house's palette for categories. */
  house?: PaletteName | readonly string[];
  /** Is told of a formula that makes too much of its values, which then has no colours. */
  tooLarge: (text: string, fault: TooLarge) => void;
}

/**
 * Colours are chosen once for each formula that a colour channel holds, from all rows, so that they
 * say the same thing in every chart and stay as picks change.
 */
export function chooseColors(pieces: readonly PlanPiece[], source: ColorSource): Record<string, ColorScale> {
  const colors = new Map<string, ColorScale>();
  for (const { plan } of pieces) {
    if (plan.type !== "chart") continue;
    for (const variant of everyVariant(plan))
      for (const layer of variant.layers) chooseLayerColors(source, variant, layer.query, colors);
  }
  return Object.fromEntries(colors);
}

/** Adds the colours of a layer, of each column that a reader may choose for it. */
function chooseLayerColors(
  source: ColorSource,
  plan: ChartPlan,
  { channels: { color }, from }: Query,
  colors: Map<string, ColorScale>,
) {
  const table = source.tableOf(from);
  if (!color || !table) return;
  for (const channel of color.choices ? Object.values(color.choices.of) : [color]) {
    const key = colorKeyOf(channel, plan);
    if (channel.aggregate || colors.has(key)) continue;
    const column = colorColumn(source, channel, table);
    if (!column) continue;
    const isCategory = column.kind === "text" || column.kind === "boolean";
    colors.set(key, isCategory ? categoryColors(source, channel, plan, column) : rampOf(plan, column));
  }
}

/** The values of a colour over all rows. */
function colorColumn(source: ColorSource, { formula, text }: Channel, table: Table): Column | undefined {
  try {
    return columnOf(evaluate(formula, frameOf(table, source.setting)), table.rowCount);
  } catch (fault) {
    if (!(fault instanceof TooLarge)) throw fault;
    source.tooLarge(text, fault);
    return undefined;
  }
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

function categoryColors(source: ColorSource, channel: Channel, plan: ChartPlan, column: Column): ColorScale {
  // Before anything is picked all rows are not; both answers have their colour from the start.
  const both: Column = { kind: "boolean", values: Float64Array.of(0, 1) };
  const speaks = selectionsOf(channel.formula).size > 0;
  const known = speaks ? (column.kind === "boolean" ? both : withResults(column, channel.formula)) : column;
  const categories = categoriesOf(known, channel.order);
  const literal = literalColors(channel.formula, categories);
  if (literal) return literal;
  const said = channel.column === undefined ? undefined : source.saidOf(plan.from, channel.column);
  const own = plan.colors;
  const listed = Array.isArray(own) ? own : undefined;
  const { house } = source;
  const named: Record<string, string> = {
    ...said,
    ...(own && typeof own === "object" && !Array.isArray(own) ? own : {}),
  };
  const ours: PaletteName = categories.length > PALETTES.quay.light.length ? "wharf" : "quay";
  const ramp = RAMP_NAMES.find((name) => name === own);
  const palette = typeof own === "string" && !ramp ? (own as PaletteName) : (house ?? ours);
  const last = categories.filter(({ name }) => name !== null).length - 1;
  let next = 0;
  const paints = categories.map(({ name }, place): Paint => {
    if (name === null) return "quiet";
    if (listed) return listed[place % listed.length] as string;
    const chosen = Object.hasOwn(named, name) ? named[name] : undefined;
    // A place is used up even by a value with a colour of its own, so that naming one colour leaves the others.
    const at = next++;
    if (ramp) return chosen ?? rampPaint(ramp, last > 0 ? at / last : 1);
    const paint = typeof palette === "string" ? palettePaint(palette, at) : (palette[at % palette.length] as string);
    return chosen ?? paint;
  });
  return { type: "categories", names: categories.map(({ name }) => name), paints };
}
