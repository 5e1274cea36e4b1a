import type { LayerPlan } from "../chart/plan";
import type { Formula } from "../formula/tree";
import { CHANNEL_NAMES, CHANNELS, type ChannelName, isGrouping } from "../mark/channels";
import { markSpec } from "../mark/specs";
import type { Channel } from "../query/query";
import type { ChartSpec, LayerSpec } from "../sheet/schema";
import type { Path } from "../sheet/tree";
import { type ReadChannel, readChannel } from "./channels";
import { keepFormula, type Place, queryOf, wrongAt } from "./piece-place";
import { checkStretches } from "./stretches";

/** A key as it stands in a layer, or in the chart that the layer is of. */
interface Given {
  text: unknown;
  path: Path;
}

/** A layer of a chart on its way into the plan. */
interface LayerDraft {
  place: Place;
  spec: LayerSpec;
  path: Path;
  given: (key: keyof LayerSpec & keyof ChartSpec) => Given | undefined;
  channels: Record<string, Channel>;
  paths: Record<string, Path>;
  looks: Partial<Record<ChannelName, Formula>>;
}

/** Channels that a sheet may write as keys. */
export const CHANNEL_KEYS = CHANNEL_NAMES.filter((name) => !("made" in CHANNELS[name])) as Exclude<
  ChannelName,
  "panel" | "across" | "down"
>[];

/** A colour written without quotes, or as a text of its own. */
const COLOUR = /^"?(#[0-9a-fA-F]{3}(?:[0-9a-fA-F]{3})?)"?$/;

/** Reads one layer; nothing where something in it is found wrong. */
export function readLayer(
  place: Place,
  chartSpec: ChartSpec,
  spec: LayerSpec,
  path: Path,
  at: number,
): LayerPlan | undefined {
  const own = path !== place.path;
  const given: LayerDraft["given"] = (key) => {
    if (own && spec[key] !== undefined) return { text: spec[key], path: [...path, key] };
    return chartSpec[key] === undefined ? undefined : { text: chartSpec[key], path: [...place.path, key] };
  };
  const draft: LayerDraft = { place, spec, path, given, channels: {}, paths: {}, looks: {} };
  const mark = markSpec(spec.draw);
  for (const key of CHANNEL_KEYS) if (!takeChannel(draft, key, mark.takes.includes(key), own)) return undefined;
  const has = (key: string) => Object.hasOwn(draft.channels, key);
  if (!mark.needs.some((set) => set.every(has))) return wrongAt(place, path, "key-missing", mark.needed);
  const keepGiven = given("keep");
  const { sound, keep } = keepFormula(place, keepGiven?.path ?? place.path, keepGiven?.text as string | undefined);
  if (!sound) return undefined;
  const tooltip = tooltipChannels(draft);
  if (tooltip === undefined) return undefined;
  const pathOf = (channel: string) => draft.paths[channel] ?? place.path;
  const query = queryOf(place, draft.channels, pathOf, keep, isGrouping);
  if (!query) return undefined;
  return {
    draw: spec.draw,
    name: spec.name ?? at,
    query,
    looks: draft.looks,
    ...(tooltip === "default" ? {} : { tooltip }),
  };
}

/** Reads a channel into the draft; false where it is found wrong. */
function takeChannel(draft: LayerDraft, key: (typeof CHANNEL_KEYS)[number], takes: boolean, own: boolean): boolean {
  const { place, spec } = draft;
  const found = draft.given(key);
  if (!found || found.text === "none") return true;
  const text = String(found.text);
  if (!takes) {
    // What the chart says goes to those of its layers that can use it.
    if (own && spec[key] === undefined) return true;
    wrongAt(place, found.path, "wrong-key", `"${key}" does not go with ${spec.draw}`);
    return false;
  }
  const colour = key === "color" ? COLOUR.exec(text.trim())?.[1] : undefined;
  if (colour !== undefined) {
    draft.looks.color = { type: "text", value: colour };
    return true;
  }
  const read = readChannel(
    {
      compiling: place.compiling,
      path: found.path,
      tableName: place.built.name,
      table: place.built.table,
      piece: place.name,
    },
    text,
  );
  if (!read) return false;
  return read.checked.constant && !read.channel.aggregate
    ? takeConstant(draft, key, read, found.path)
    : takeValues(draft, key, read.channel, found.path);
}

/** A formula without columns: a look of all marks, or a finding where values are needed. */
function takeConstant(draft: LayerDraft, key: ChannelName, { channel }: ReadChannel, path: Path): boolean {
  const { constant } = CHANNELS[key] as { constant?: string };
  if (constant === "number" && channel.kind === "number") {
    draft.looks[key] = channel.formula;
    return true;
  }
  if (key === "color") return takeValues(draft, key, channel, path);
  wrongAt(
    draft.place,
    path,
    "constant-place",
    `${channel.text} is the same for every row; a column or formula is expected`,
  );
  return false;
}

function takeValues(draft: LayerDraft, key: ChannelName, channel: Channel, path: Path): boolean {
  const { place } = draft;
  if (key === "size" || key === "opacity") {
    wrongAt(place, path, "not-in-this-version", `this version takes a plain number or a setting as ${key}`);
    return false;
  }
  if (!checkStretches(place.compiling, path, channel, place.built.table, place.name)) return false;
  draft.channels[key] = channel;
  draft.paths[key] = path;
  return true;
}

/** Adds the tooltip's own channels; answers their names, `null` for none, or `default`. */
function tooltipChannels({ place, given, channels, paths }: LayerDraft): string[] | null | "default" | undefined {
  const tooltip = given("tooltip");
  if (!tooltip) return "default";
  if (tooltip.text === "none") return null;
  const names: string[] = [];
  const grouped = Object.values(channels).some((channel) => channel.aggregate);
  for (const [at, text] of (tooltip.text as string[]).entries()) {
    const { compiling, name, built } = place;
    const path = [...tooltip.path, at];
    const read = readChannel({ compiling, path, tableName: built.name, table: built.table, piece: name }, text, {
      named: true,
    });
    if (!read) return undefined;
    const same = Object.keys(channels).find((key) => channels[key]?.text === read.channel.text);
    if (same) {
      names.push(same);
      continue;
    }
    if (grouped && !read.channel.aggregate)
      return wrongAt(
        place,
        path,
        "not-in-this-version",
        `this version shows only grouped columns and aggregates in the tooltip of groups; take first(${read.channel.text})`,
      );
    channels[`tip${at}`] = read.channel;
    paths[`tip${at}`] = path;
    names.push(`tip${at}`);
  }
  return names;
}
