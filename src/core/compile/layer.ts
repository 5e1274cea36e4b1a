import type { LayerPlan } from "../chart/plan";
import { writeFix } from "../finding/finding";
import { listed } from "../finding/nearest";
import type { Formula } from "../formula/tree";
import { CHANNELS, type ChannelName, isGrouping } from "../mark/channels";
import type { MarkSpec, OptionSpec } from "../mark/mark";
import { MARK_OPTIONS, markSpec } from "../mark/specs";
import { type Channel, PANEL_CHANNELS, type PanelChannel } from "../query/query";
import { CHANNEL_KEYS } from "../sheet/piece-keys";
import type { ChartSpec, LayerSpec } from "../sheet/schema-charts";
import type { Path } from "../sheet/tree";
import { type ReadChannel, readChannel } from "./channels";
import { addFinding, type BuiltTable } from "./compiling";
import { keepFormula, type Place, queryOf, wrongAt } from "./piece-place";
import { checkStretches } from "./stretches";
import { readTooltip } from "./tooltip";
import { unknownTable } from "./unknown-table";

/** A key as it stands in a layer, or in the chart that the layer is of. */
interface Given {
  text: unknown;
  path: Path;
}

/** A layer of a chart on its way into the plan. */
export interface LayerDraft {
  place: Place;
  spec: LayerSpec;
  path: Path;
  given: (key: keyof LayerSpec & keyof ChartSpec) => Given | undefined;
  /** It is one of several layers, and not the chart itself. */
  own: boolean;
  channels: Record<string, Channel>;
  paths: Record<string, Path>;
  looks: Partial<Record<ChannelName, Formula>>;
}

/** A colour written without quotes, or as a text of its own. */
const COLOUR = /^"?(#[0-9a-fA-F]{3}(?:[0-9a-fA-F]{3})?)"?$/;

/** Reads one layer; nothing where something in it is found wrong. */
export function readLayer(
  chart: Place,
  chartSpec: ChartSpec,
  spec: LayerSpec,
  path: Path,
  at: number,
): LayerPlan | undefined {
  const own = path !== chart.path;
  const built = own && spec.from !== undefined ? layerTable(chart, spec.from, [...path, "from"]) : chart.built;
  if (!built) return undefined;
  const place = { ...chart, built };
  const given: LayerDraft["given"] = (key) => {
    if (own && spec[key] !== undefined) return { text: spec[key], path: [...path, key] };
    return chartSpec[key] === undefined ? undefined : { text: chartSpec[key], path: [...place.path, key] };
  };
  const draft: LayerDraft = { place, spec, path, given, own, channels: {}, paths: {}, looks: {} };
  const mark = markSpec(spec.draw);
  for (const key of CHANNEL_KEYS) if (!takeChannel(draft, key, mark)) return undefined;
  const has = (key: string) => Object.hasOwn(draft.channels, key) || Object.hasOwn(draft.looks, key);
  if (!mark.needs.some((set) => set.every(has))) return wrongAt(place, path, "key-missing", mark.needed);
  if (!takePanels(draft, chartSpec)) return undefined;
  const options = readOptions(draft, mark);
  const query = options && readQuery(draft, mark);
  if (!query) return undefined;
  const { sound, show } = readShow(draft);
  if (!sound) return undefined;
  return {
    draw: spec.draw,
    name: spec.name ?? at,
    query: query.query,
    looks: draft.looks,
    options,
    ...(show ? { show } : {}),
    ...(own && spec.axes?.y?.side === "right" ? { side: "right" as const } : {}),
    ...query.tooltip,
  };
}

/** The table of a layer that has one of its own. */
function layerTable({ compiling, name }: Place, from: string, path: Path): BuiltTable | undefined {
  const built = compiling.tables.get(from);
  if (built) compiling.used.add(`tables.${from}`);
  else if (!compiling.sheet.tables.has(from) && !compiling.sheet.broken.has(`tables.${from}`))
    unknownTable(compiling, path, from, name);
  return built;
}

/**
 * The question of a layer: its channels, grouped as soon as one is an aggregate, unless its mark sums rows up
 * itself.
 */
function readQuery(draft: LayerDraft, mark: MarkSpec) {
  const { place, given, channels, paths, path } = draft;
  const keepGiven = given("keep");
  const { sound, keep } = keepFormula(place, keepGiven?.path ?? place.path, keepGiven?.text as string | undefined);
  if (!sound) return undefined;
  if (mark.merges) {
    const measured = Object.keys(channels).find((name) => channels[name]?.aggregate);
    if (measured !== undefined)
      return wrongAt(
        place,
        paths[measured] ?? path,
        "aggregate-here",
        `${draft.spec.draw} are made of the rows themselves: write the column in place of ${channels[measured]?.text}`,
      );
  }
  // Groups are known by their keys already.
  if (Object.values(channels).some(({ aggregate }) => aggregate)) delete channels.identity;
  const tooltip = readTooltip(draft);
  if (!tooltip) return undefined;
  const pathOf = (channel: string) => paths[channel] ?? place.path;
  const query = queryOf(place, channels, pathOf, keep, isGrouping);
  if (!query) return undefined;
  // What stands at the same place for all rows is one mark, and not one for each of them.
  const names = Object.keys(channels);
  if (
    names.some((name) => channels[name]?.constant) &&
    names.every((name) => channels[name]?.constant || APART.has(name))
  )
    Object.assign(query, { grouped: true, groupBy: names });
  if (mark.merges) query.merged = [...mark.merges, ...PANEL_CHANNELS].filter((name) => isKeyOf(channels, name));
  return { query, tooltip };
}

/** Of a mark that merges rows, channels of categories are keys; the measured one is not. */
const isKeyOf = (channels: Readonly<Record<string, Channel>>, name: string): boolean => {
  const channel = channels[name];
  if (!channel) return false;
  const isMeasure = channel.kind === "number" || channel.kind === "duration";
  return !(name === "x" || name === "y") || !isMeasure || channel.interval !== undefined;
};

/** Reads a channel into the draft; false where it is found wrong. */
function takeChannel(draft: LayerDraft, key: (typeof CHANNEL_KEYS)[number], mark: MarkSpec): boolean {
  const { place, spec, own } = draft;
  const isOwn = own && spec[key] !== undefined;
  const isPlace = CHANNELS[key].role === "place" || key === "along";
  if (own && !isOwn && mark.inheritsPlaces === false && isPlace) return true;
  const found = draft.given(key);
  if (!found || found.text === "none") return true;
  if (!mark.takes.includes(key) && key !== "identity") {
    // What the chart says goes to those of its layers that can use it.
    if (own && !isOwn) return true;
    const taken = `${spec.draw} takes ${listed(mark.takes, mark.takes.length)}`;
    wrongAt(place, found.path, "wrong-key", `"${key}" does not go with ${spec.draw}; ${taken}`);
    return false;
  }
  if (typeof found.text === "object") {
    draft.looks[key] = { type: "text", value: (found.text as { says: string }).says };
    return true;
  }
  const text = String(found.text);
  const colour = key === "color" ? COLOUR.exec(text.trim())?.[1] : undefined;
  if (colour !== undefined) {
    draft.looks.color = { type: "text", value: colour };
    return true;
  }
  const read = readChannel({ ...channelPlace(place), path: found.path }, text);
  if (!read) return false;
  return read.checked.constant && !read.channel.aggregate
    ? takeConstant(draft, key, read, found.path)
    : takeValues(draft, key, read.channel, found.path, mark);
}

const channelPlace = ({ compiling, built, name }: Place) => ({
  compiling,
  tableName: built.name,
  table: built.table,
  piece: name,
});

/** Where a mark may stand that has the same place for every row. */
const PLACES: ReadonlySet<string> = new Set(["x", "y", "x_to", "y_to", "lon", "lat", "lon_to", "lat_to"]);
/** What may tell such marks apart without making one of each row. */
const APART: ReadonlySet<string> = new Set(["color", "series", "symbol", "label", ...PANEL_CHANNELS]);

/** A formula without columns: a look or place of all marks, or a finding where values are needed. */
function takeConstant(draft: LayerDraft, key: ChannelName, { channel }: ReadChannel, path: Path): boolean {
  const { constant } = CHANNELS[key] as { constant?: string };
  const isColour = key === "color" && isColourSetting(draft.place, channel.formula);
  if ((constant === "number" && channel.kind === "number") || isColour) {
    draft.looks[key] = channel.formula;
    return true;
  }
  if (refuseColumnName(draft.place, channel, path)) return false;
  if (key === "color" || PLACES.has(key)) {
    draft.channels[key] = key === "color" ? channel : { ...channel, constant: true };
    draft.paths[key] = path;
    return true;
  }
  wrongAt(
    draft.place,
    path,
    "constant-place",
    `${channel.text} is the same for every row; a column or formula is expected`,
  );
  return false;
}

/** A setting whose values are columns by name, where the column itself must be meant: found wrong, with the way out. */
function refuseColumnName({ compiling, built, name }: Place, { formula, text }: Channel, path: Path): boolean {
  const of = formula.type === "setting" ? compiling.settings.get(formula.name)?.of : undefined;
  if (!of?.length || !of.every((column) => built.table.columns.has(column))) return false;
  const wanted = `chosen(${text})`;
  const span = compiling.sheet.source.valueSpan(path);
  addFinding(compiling, path, "constant-place", `${text} is the name of a column; the column is ${wanted}`, {
    piece: name,
    ...writeFix(span, wanted),
  });
  return true;
}

/** A setting that starts as a colour. */
const isColourSetting = ({ compiling }: Place, formula: Formula): boolean =>
  formula.type === "setting" && /^#/.test(String(compiling.settings.get(formula.name)?.start ?? ""));

function takeValues(draft: LayerDraft, key: ChannelName, channel: Channel, path: Path, mark: MarkSpec): boolean {
  const { place, spec } = draft;
  if ((key === "size" || key === "opacity") && !mark.varies?.includes(key)) {
    wrongAt(place, path, "constant-look", `${key} of ${spec.draw} is one number for all of them, or a setting`);
    return false;
  }
  const wanted = key === "size" || key === "opacity" || key === "value" || key === "lon" || key === "lat";
  if (wanted && (channel.kind === "text" || channel.kind === "boolean" || channel.kind === "place")) {
    wrongAt(place, path, "wrong-kind", `${key} must be a number, and ${channel.text} holds ${channel.kind}`);
    return false;
  }
  if (key === "place" && channel.kind !== "place") {
    wrongAt(place, path, "wrong-kind", `place: takes a column of places, and ${channel.text} holds ${channel.kind}`);
    return false;
  }
  if (!checkStretches(place.compiling, path, channel, place.built.table, place.name)) return false;
  draft.channels[key] = channel;
  draft.paths[key] = path;
  return true;
}

/** Adds the channels by which small charts are told apart. */
function takePanels(draft: LayerDraft, { panels }: ChartSpec): boolean {
  if (panels === undefined) return true;
  const wanted: [PanelChannel, string | undefined, Path][] =
    typeof panels === "string"
      ? [["panel", panels, ["panels"]]]
      : panels.by !== undefined
        ? [["panel", panels.by, ["panels", "by"]]]
        : [
            ["across", panels.across, ["panels", "across"]],
            ["down", panels.down, ["panels", "down"]],
          ];
  for (const [channel, text, key] of wanted) {
    if (text === undefined) continue;
    const path = [...draft.place.path, ...key];
    const read = readChannel({ ...channelPlace(draft.place), path }, text);
    if (!read) return false;
    if (/^\s*\d+\s*$/.test(text)) {
      wrongAt(
        draft.place,
        path,
        "constant-place",
        `panels are told apart by a column; so many side by side are panels: {by: COLUMN, across: ${text.trim()}}`,
      );
      return false;
    }
    if (read.channel.aggregate) {
      wrongAt(draft.place, path, "aggregate-here", `panels are told apart by a column, not by ${read.channel.text}`);
      return false;
    }
    draft.channels[channel] = read.channel;
    draft.paths[channel] = path;
  }
  return true;
}

/** Numbers, switches and words that only this mark takes, each as a formula without columns. */
function readOptions({ place, given, spec, own }: LayerDraft, mark: MarkSpec): Record<string, Formula> | undefined {
  const options: Record<string, Formula> = {};
  for (const [key, { takes }] of Object.entries(MARK_OPTIONS)) {
    const found = given(key as "steps");
    if (!found || found.text === "none") continue;
    if (!mark.options?.[key]) {
      if (own && (spec as Record<string, unknown>)[key] === undefined) continue;
      return wrongAt(place, found.path, "wrong-key", `"${key}" does not go with ${spec.draw}`);
    }
    const formula = optionFormula(place, String(found.text), takes, found.path);
    if (!formula) return undefined;
    options[key] = formula;
  }
  return options;
}

export function optionFormula(place: Place, text: string, takes: OptionSpec["takes"], path: Path): Formula | undefined {
  const { settings, used, sheet } = place.compiling;
  if (text.startsWith("$")) {
    const name = text.slice(1);
    if (!settings.has(name)) {
      if (sheet.broken.has(name)) return undefined;
      return wrongAt(place, path, "unknown-setting", `there is no setting "${name}" among the controls`);
    }
    used.add(name);
    return { type: "setting", name };
  }
  if (takes === "switch") {
    if (text === "true" || text === "false") return { type: "boolean", value: text === "true" };
    return wrongAt(place, path, "wrong-value", `true, false or a setting is expected, not "${text}"`);
  }
  if (takes === "number") {
    const value = Number(text);
    if (text.trim() !== "" && Number.isFinite(value)) return { type: "number", value };
    return wrongAt(place, path, "wrong-value", `a number or a setting is expected, not "${text}"`);
  }
  if (takes.includes(text)) return { type: "text", value: text };
  return wrongAt(place, path, "wrong-value", `"${text}" is not one of ${takes.join(", ")}`);
}

/** The setting that switches a layer on and off. */
function readShow({ place, spec, path, own }: LayerDraft): { sound: boolean; show?: Formula } {
  if (!own || spec.show === undefined) return { sound: true };
  const show = optionFormula(place, spec.show, "switch", [...path, "show"]);
  return show ? { sound: true, show } : { sound: false };
}
