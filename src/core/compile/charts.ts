import type {
  AxisPlan,
  CategorySort,
  ChartPlan,
  DataTablePlan,
  FigurePlan,
  LayerMark,
  LayerPlan,
  PieceWords,
} from "../chart/plan";
import { AGGREGATES } from "../formula/aggregate-names";
import { printFormula } from "../formula/print";
import { type Formula, withoutPlaces } from "../formula/tree";
import type { PlanPiece } from "../plan/plan";
import type { Channel, Query } from "../query/query";
import type { AxisSpec, ChartSpec, LayerSpec } from "../sheet/schema";
import type { Path } from "../sheet/tree";
import { readChannel, spaced } from "./channels";
import { addFinding, type BuiltTable, type Compiling, checkedFormula } from "./compiling";
import { sortKey } from "./step-place";
import { bareColumn } from "./steps";
import { checkStretches, warnEmptyStretches } from "./stretches";
import { unknownTable } from "./tables";

interface Place {
  compiling: Compiling;
  name: string;
  path: Path;
  built: BuiltTable;
}

/** Which keys go with which way of drawing; others are a finding. */
const CHART_ONLY = [
  "x",
  "y",
  "color",
  "opacity",
  "size",
  "series",
  "along",
  "axes",
  "sort",
  "colors",
  "stacking",
  "legend",
  "layers",
] as const;
const FIGURE_ONLY = ["value", "against"] as const;
const TABLE_ONLY = ["columns", "page", "take"] as const;

/** Checks a chart, figure or data table; nothing where it cannot be drawn. */
export function readPiece(compiling: Compiling, name: string, spec: ChartSpec): PlanPiece | undefined {
  const path = ["charts", name];
  const wrong = (key: string | undefined, code: string, message: string) => {
    addFinding(compiling, key === undefined ? path : [...path, key], code, message, { piece: name });
    return undefined;
  };
  if (!spec.draw && !spec.layers) return wrong(undefined, "key-missing", "a chart needs draw: or layers:");
  if (spec.draw && spec.layers)
    return wrong("layers", "wrong-key", "draw: and layers: do not go together; write draw: in each layer");
  const built = compiling.tables.get(spec.from);
  if (!built) {
    if (!compiling.sheet.tables.has(spec.from) && !compiling.sheet.broken.has(`tables.${spec.from}`))
      unknownTable(compiling, [...path, "from"], spec.from, name);
    return undefined;
  }
  compiling.used.add(`tables.${spec.from}`);
  const kind = spec.draw === "figure" || spec.draw === "table" ? spec.draw : "chart";
  const misplaced = [
    ...(kind === "chart" ? [] : CHART_ONLY),
    ...(kind === "figure" ? [] : FIGURE_ONLY),
    ...(kind === "table" ? [] : TABLE_ONLY),
  ].filter((key) => spec[key] !== undefined);
  for (const key of misplaced) wrong(key, "wrong-key", `"${key}" does not go with ${spec.draw ?? "layers"}`);
  if (misplaced.length) return undefined;
  const place = { compiling, name, path, built };
  const plan = kind === "figure" ? figure(place, spec) : kind === "table" ? dataTable(place, spec) : chart(place, spec);
  if (!plan) return undefined;
  const words: PieceWords = { title: spec.title ?? titleOf(plan, name) };
  for (const key of ["subtitle", "credit", "hint", "empty"] as const)
    if (spec[key] !== undefined) words[key] = spec[key];
  for (const key of ["title", "subtitle", "credit", "hint", "empty"] as const) {
    if (/\{[^}]*\}/.test(spec[key] ?? ""))
      return wrong(
        key,
        "not-in-this-version",
        "values in braces belong to the language but this version does not compute them in words",
      );
  }
  return { name, words, plan };
}

function titleOf(plan: ChartPlan | FigurePlan | DataTablePlan, name: string): string {
  if (plan.type === "figure") return capital(plan.query.channels.value?.label ?? name);
  return capital(spaced(plan.type === "table" ? plan.from : name));
}

const capital = (text: string) => text.slice(0, 1).toUpperCase() + text.slice(1);

function keepFormula(
  { compiling, name, built }: Place,
  path: Path,
  text: string | undefined,
): { sound: boolean; keep?: Formula } {
  if (text === undefined) return { sound: true };
  const checked = checkedFormula(compiling, path, text, built.name, built.table, { piece: name, wanted: "boolean" });
  return checked ? { sound: true, keep: withoutPlaces(checked.formula) } : { sound: false };
}

/** True if a column stands beside an aggregate without being a key, which is found wrong. */
function refuseBare({ compiling, name }: Place, path: Path, channel: Channel, keys: ReadonlySet<string>): boolean {
  const bare = bareColumn(channel.formula, keys);
  if (bare === undefined) return false;
  const wayOut = bare.startsWith("picked(")
    ? "write it inside the aggregate"
    : "take one with sum(), mean(), first(), or make it a channel of its own";
  addFinding(compiling, path, "bare-column", `${bare} has several values beside an aggregate; ${wayOut}`, {
    piece: name,
  });
  return true;
}

/** The query of some channels: grouped by those without an aggregate, as soon as one has one. */
function queryOf(
  place: Place,
  channels: Record<string, Channel>,
  pathOf: (channel: string) => Path,
  keep: Formula | undefined,
  never: readonly string[] = [],
): Query | undefined {
  const grouped = Object.values(channels).some((channel) => channel.aggregate);
  const groupBy = grouped
    ? Object.keys(channels).filter((name) => !channels[name]?.aggregate && !never.includes(name))
    : [];
  const keys = new Set(groupBy.map((name) => channels[name]?.text as string));
  if (grouped) {
    for (const [name, channel] of Object.entries(channels)) {
      if (!channel.aggregate) continue;
      if (refuseBare(place, pathOf(name), channel, keys)) return undefined;
    }
  }
  return { from: place.built.name, channels, groupBy, grouped, ...(keep ? { keep } : {}) };
}

function figure(place: Place, spec: ChartSpec): FigurePlan | undefined {
  const { compiling, name, path, built } = place;
  if (spec.value === undefined) {
    addFinding(compiling, path, "key-missing", "a figure needs value:, such as sum(tonnes)", { piece: name });
    return undefined;
  }
  const channels: Record<string, Channel> = {};
  for (const key of ["value", "against"] as const) {
    const text = spec[key];
    if (text === undefined) continue;
    const read = readChannel(
      { compiling, path: [...path, key], tableName: built.name, table: built.table, piece: name },
      text,
    );
    if (!read) return undefined;
    if (!read.channel.aggregate && !read.checked.constant) {
      addFinding(
        compiling,
        [...path, key],
        "bare-column",
        `a figure is one number; ${read.channel.text} has one a row. Take sum(), mean(), count() or another aggregate`,
        { piece: name },
      );
      return undefined;
    }
    if (refuseBare(place, [...path, key], read.channel, new Set())) return undefined;
    channels[key] = { ...read.channel, aggregate: true };
  }
  const { sound, keep } = keepFormula(place, [...path, "keep"], spec.keep);
  if (!sound) return undefined;
  const query: Query = { from: built.name, channels, groupBy: [], grouped: true, ...(keep ? { keep } : {}) };
  const value = (channels.value as Channel).formula;
  const summed = value.type === "call" && (value.name === "sum" || value.name === "count");
  return { type: "figure", from: built.name, query, compare: summed ? "percent" : "difference" };
}

function dataTable(place: Place, spec: ChartSpec): DataTablePlan | undefined {
  const { compiling, name, path, built } = place;
  const texts =
    spec.columns ?? [...built.table.columns.keys()].map((column) => printFormula({ type: "column", name: column }));
  const channels: Record<string, Channel> = {};
  const columns: DataTablePlan["columns"] = [];
  let sound = true;
  texts.forEach((text, at) => {
    const inner = spec.columns ? [...path, "columns", at] : path;
    const read = readChannel({ compiling, path: inner, tableName: built.name, table: built.table, piece: name }, text, {
      named: true,
    });
    if (!read) {
      sound = false;
      return;
    }
    const { formula } = read.channel;
    const key = read.checked.name ?? (formula.type === "column" ? formula.name : text.trim());
    if (columns.some((column) => column.key === key)) {
      sound = false;
      addFinding(compiling, inner, "doubled-column", `"${key}" stands twice in this table`, { piece: name });
      return;
    }
    channels[`column${at}`] = read.channel;
    columns.push({ channel: `column${at}`, key });
  });
  const { sound: keepSound, keep } = keepFormula(place, [...path, "keep"], spec.keep);
  if (!sound || !keepSound) return undefined;
  const query = queryOf(place, channels, () => path, keep);
  if (!query) return undefined;
  const pages = (spec.page === undefined ? ["25"] : Array.isArray(spec.page) ? spec.page : [spec.page]).map((page) =>
    page === "all" ? "all" : Number(page),
  );
  return { type: "table", from: built.name, query, columns, pages, take: spec.take ?? ["csv"] };
}

const PLACES = ["x", "y"] as const;
const CHANNEL_KEYS = ["x", "y", "color", "series", "along"] as const;

function chart(place: Place, spec: ChartSpec): ChartPlan | undefined {
  const { path, built } = place;
  const layerSpecs: { spec: LayerSpec; path: Path }[] = spec.layers
    ? spec.layers.map((layer, at) => ({ spec: layer, path: [...path, "layers", at] }))
    : [{ spec: { draw: spec.draw as LayerMark }, path }];
  const layers: LayerPlan[] = [];
  for (const [at, layer] of layerSpecs.entries()) {
    const plan = layerPlan(place, spec, layer.spec, layer.path, at);
    if (!plan) return undefined;
    layers.push(plan);
  }
  const along = alongOf(layers);
  for (const { query } of layers)
    warnEmptyStretches(place.compiling, [...path, along], query, along, built.table, place.name);
  const axes: ChartPlan["axes"] = {};
  for (const axis of PLACES) {
    const channel = layers.map((layer) => layer.query.channels[axis]).find((found) => found !== undefined);
    if (!channel) continue;
    const plan = axisPlan(place, axis, channel, layers, along, spec.axes?.[axis]);
    if (!plan) return undefined;
    // Parts of a whole have no unit any more.
    if (spec.stacking === "percent" && axis !== along) {
      plan.format ??= ".0%";
      plan.whole = false;
      delete plan.unit;
    }
    axes[axis] = plan;
  }
  const legendSpec = spec.legend ?? {};
  const legend = {
    at: legendSpec.at ?? "top",
    press: legendSpec.press ?? "remove",
    refit: legendSpec.refit ?? (legendSpec.press ?? "remove") === "remove",
  } as ChartPlan["legend"];
  const barLayer = layers.find((layer) => layer.draw === "bars");
  const stacking = spec.stacking ?? defaultStacking(barLayer, along);
  if (barLayer) warnDoubledBars(place, barLayer, along);
  const sort = sortPlan(place, spec, layers);
  if (!sort) return undefined;
  return {
    type: "chart",
    from: built.name,
    layers,
    layered: spec.layers !== undefined,
    axes,
    along,
    sort,
    stacking,
    legend,
    ...(spec.colors === undefined ? {} : { colors: spec.colors }),
  };
}

function layerPlan(
  place: Place,
  chartSpec: ChartSpec,
  layer: LayerSpec,
  layerPath: Path,
  at: number,
): LayerPlan | undefined {
  const { compiling, name, path, built } = place;
  const own = layerPath !== path;
  const given = (key: keyof LayerSpec & keyof ChartSpec) => {
    if (own && layer[key] !== undefined) return { text: layer[key], path: [...layerPath, key] };
    return chartSpec[key] === undefined ? undefined : { text: chartSpec[key], path: [...path, key] };
  };
  const channels: Record<string, Channel> = {};
  const paths: Record<string, Path> = {};
  const plan: Partial<LayerPlan> = {};
  for (const key of CHANNEL_KEYS) {
    const found = given(key);
    if (!found || found.text === "none") continue;
    const text = found.text as string;
    if (key === "color" && /^"#[0-9a-fA-F]{3,6}"$/.test(text.trim())) {
      plan.paint = text.trim().slice(1, -1);
      continue;
    }
    if (key === "color" && /^#[0-9a-fA-F]{3}(?:[0-9a-fA-F]{3})?$/.test(text.trim())) {
      plan.paint = text.trim();
      continue;
    }
    const read = readChannel(
      { compiling, path: found.path, tableName: built.name, table: built.table, piece: name },
      text,
    );
    if (!read) return undefined;
    if (read.checked.constant && !read.channel.aggregate && key !== "color") {
      addFinding(
        compiling,
        found.path,
        "constant-place",
        `${text} is the same for every row; a column or formula is expected`,
        { piece: name },
      );
      return undefined;
    }
    if (!checkStretches(compiling, found.path, read.channel, built.table, name)) return undefined;
    channels[key] = read.channel;
    paths[key] = found.path;
  }
  if (!channels.x && !channels.y) {
    addFinding(compiling, layerPath, "key-missing", `${layer.draw} need x: or y:`, { piece: name });
    return undefined;
  }
  if (layer.draw !== "points" && (!channels.x || !channels.y)) {
    addFinding(
      compiling,
      layerPath,
      "key-missing",
      `${layer.draw} need both x: and y:, one of them measured, such as count()`,
      { piece: name },
    );
    return undefined;
  }
  const keepGiven = given("keep");
  const { sound, keep } = keepFormula(place, keepGiven?.path ?? path, keepGiven?.text as string | undefined);
  if (!sound) return undefined;
  const tooltip = tooltipChannels(place, given("tooltip"), channels, paths);
  if (tooltip === undefined) return undefined;
  const query = queryOf(place, channels, (channel) => paths[channel] ?? path, keep, [
    "along",
    ...Object.keys(channels).filter((key) => key.startsWith("tip")),
  ]);
  if (!query) return undefined;
  const opacity = given("opacity")?.text as number | undefined;
  const size = given("size")?.text as string | undefined;
  if (size !== undefined && !/^\d+(?:\.\d+)?$/.test(size)) {
    addFinding(
      compiling,
      (given("size") as { path: Path }).path,
      "not-in-this-version",
      "this version takes a plain number as size",
      { piece: name },
    );
    return undefined;
  }
  return {
    draw: layer.draw,
    name: layer.name ?? at,
    query,
    ...plan,
    ...(opacity === undefined ? {} : { opacity }),
    ...(size === undefined ? {} : { size: Number(size) }),
    ...(tooltip === "default" ? {} : { tooltip }),
  };
}

/** Adds the tooltip's own channels; answers their names, `null` for none, or `default`. */
function tooltipChannels(
  place: Place,
  given: { text: unknown; path: Path } | undefined,
  channels: Record<string, Channel>,
  paths: Record<string, Path>,
): string[] | null | "default" | undefined {
  if (!given) return "default";
  if (given.text === "none") return null;
  const names: string[] = [];
  const grouped = Object.values(channels).some((channel) => channel.aggregate);
  for (const [at, text] of (given.text as string[]).entries()) {
    const { compiling, name, built } = place;
    const path = [...given.path, at];
    const read = readChannel({ compiling, path, tableName: built.name, table: built.table, piece: name }, text, {
      named: true,
    });
    if (!read) return undefined;
    const same = Object.keys(channels).find((key) => channels[key]?.text === read.channel.text);
    if (same) {
      names.push(same);
      continue;
    }
    if (grouped && !read.channel.aggregate) {
      addFinding(
        compiling,
        path,
        "not-in-this-version",
        `this version shows only grouped columns and aggregates in the tooltip of groups; take first(${read.channel.text})`,
        { piece: name },
      );
      return undefined;
    }
    channels[`tip${at}`] = read.channel;
    paths[`tip${at}`] = path;
    names.push(`tip${at}`);
  }
  return names;
}

/** Bars and lines stand along the axis that is not measured. */
function alongOf(layers: readonly LayerPlan[]): "x" | "y" {
  for (const { query } of layers) {
    const { x, y } = query.channels;
    if (x?.aggregate && y && !y.aggregate) return "y";
    if (y?.aggregate) return "x";
    if (y && (y.kind === "text" || y.kind === "boolean") && x && x.kind !== "text") return "y";
  }
  return "x";
}

function isSummed(channel: Channel | undefined): boolean {
  const formula = channel?.formula;
  if (formula?.type !== "call") return false;
  if (formula.name === "share") return true;
  return AGGREGATES.has(formula.name) && (formula.name === "sum" || formula.name === "count");
}

function defaultStacking(bars: LayerPlan | undefined, along: "x" | "y"): ChartPlan["stacking"] {
  if (!bars?.query.channels.color || !bars.query.grouped) return "off";
  return isSummed(bars.query.channels[along === "x" ? "y" : "x"]) ? "sum" : "beside";
}

function axisPlan(
  place: Place,
  name: "x" | "y",
  channel: Channel,
  layers: readonly LayerPlan[],
  along: "x" | "y",
  spec: AxisSpec | undefined,
): AxisPlan | undefined {
  const moment = channel.kind === "date" || channel.kind === "datetime";
  const category = channel.kind === "text" || channel.kind === "boolean";
  const barsHere = layers.some((layer) => layer.draw === "bars") && name === along;
  // A bar needs a width: plain numbers and dates under bars are categories unless they are binned.
  const natural = category || (barsHere && !channel.interval) ? "category" : moment ? "time" : "linear";
  const scale = spec?.scale ?? natural;
  const wrong = (message: string) => {
    addFinding(place.compiling, [...place.path, "axes", name, "scale"], "wrong-scale", message, { piece: place.name });
    return undefined;
  };
  if (category && scale !== "category")
    return wrong(
      `${channel.text} holds ${channel.kind === "text" ? "texts" : "true and false"}, which make a category axis`,
    );
  if (moment && scale === "log") return wrong("dates have no logarithm");
  if (!moment && scale === "time") return wrong(`${channel.text} holds no dates`);
  const measured = name !== along;
  const range = spec?.range;
  return {
    scale,
    kind: channel.kind,
    fromZero: spec?.from_zero ?? (measured && layers.some((layer) => layer.draw === "bars")),
    range: range === undefined ? "default" : Array.isArray(range) ? (range as [number, number]) : range,
    reverse: spec?.reverse ?? false,
    title: spec?.title ?? (scale === "category" || channel.interval?.type === "period" ? "" : capital(channel.label)),
    grid: spec?.grid ?? (measured || !layers.some((layer) => layer.draw === "bars")),
    hidden: spec?.hidden ?? false,
    measure: channel.aggregate,
    whole: channel.formula.type === "call" && (channel.formula.name === "count" || channel.formula.name === "distinct"),
    ...(channel.unit !== undefined && spec?.title === undefined && scale !== "category" ? { unit: channel.unit } : {}),
    ...(spec?.format === undefined ? {} : { format: spec.format }),
    ...(channel.format === undefined || scale === "category" || moment ? {} : { columnFormat: channel.format }),
    ...(spec?.ticks === undefined ? {} : { ticks: spec.ticks }),
  };
}

function sortPlan(place: Place, spec: ChartSpec, layers: readonly LayerPlan[]): ChartPlan["sort"] | undefined {
  const { compiling, name, path, built } = place;
  const sort: ChartPlan["sort"] = {};
  for (const axis of ["x", "y", "color"] as const) {
    const given = spec.sort?.[axis];
    if (given === undefined) continue;
    const channel = layers[0]?.query.channels[axis];
    if (!channel || channel.aggregate) {
      addFinding(
        compiling,
        [...path, "sort", axis],
        "wrong-sort",
        channel
          ? `${axis} holds a measure; what is sorted are the categories of the other axis`
          : `there is nothing on ${axis} to sort`,
        { piece: name },
      );
      return undefined;
    }
    if (Array.isArray(given)) {
      sort[axis] = { list: given };
      continue;
    }
    const { text, descending, offset } = sortKey(given);
    const read = readChannel(
      { compiling, path: [...path, "sort", axis], tableName: built.name, table: built.table, piece: name },
      text,
      { offset },
    );
    if (!read) return undefined;
    const by: Channel = read.channel.aggregate
      ? read.channel
      : { ...read.channel, formula: { type: "call", name: "min", arguments: [read.channel.formula] }, aggregate: true };
    if (!read.channel.aggregate && (read.channel.kind === "text" || read.channel.kind === "boolean")) {
      addFinding(
        compiling,
        [...path, "sort", axis],
        "wrong-sort",
        `categories are sorted by a number, such as -sum(tonnes), or by a list of values`,
        { piece: name },
      );
      return undefined;
    }
    sort[axis] = { by, descending } satisfies CategorySort;
  }
  return sort;
}

/** Several raw rows on one bar, whatever else of the chart is an aggregate: nobody could tell which number is meant. */
function warnDoubledBars(place: Place, layer: LayerPlan, along: "x" | "y") {
  const { compiling, name, path, built } = place;
  const key = layer.query.channels[along]?.formula;
  const measured = layer.query.channels[along === "x" ? "y" : "x"];
  if (key?.type !== "column" || !measured || measured.aggregate) return;
  const column = built.table.columns.get(key.name);
  if (!column) return;
  const distinct = new Set(column.kind === "text" ? column.codes : column.values).size;
  if (distinct === 0 || built.table.rowCount <= distinct) return;
  // Lengths of time are seldom added up, and dates cannot be.
  const take = measured.kind === "number" ? "sum" : measured.kind === "duration" ? "mean" : "max";
  const perBar = Math.round((built.table.rowCount / distinct) * 10) / 10;
  const measuredName = along === "x" ? "y" : "x";
  const span = compiling.sheet.source.valueSpan([...path, measuredName]);
  addFinding(
    compiling,
    [...path, measuredName],
    "several-rows",
    `about ${perBar} rows stand on one bar: take ${take === "max" ? "min or max" : "sum, mean or max"} of ${measured.text}`,
    {
      piece: name,
      ...(span
        ? { fix: { title: `write ${take}(${measured.text})`, edits: [{ ...span, text: `${take}(${measured.text})` }] } }
        : {}),
    },
  );
}
