import type { LayerPlan } from "../chart/plan";
import type { WordPart } from "../chart/words";
import { writeFix } from "../finding/finding";
import type { Channel } from "../query/query";
import type { Path } from "../sheet/tree";
import { readChannel } from "./channels";
import { addFinding } from "./compiling";
import type { LayerDraft } from "./layer";
import { namedPart, wordParts } from "./live-words";
import { wrongAt } from "./piece-place";

type Tooltip = Pick<LayerPlan, "tooltip" | "says">;

/**
 * What the tooltip of a layer says: the channels in use, none, a list of formulas, or a line of words.
 * Formulas become channels of the layer. Nothing where one is found wrong.
 */
export function readTooltip(draft: LayerDraft): Tooltip | undefined {
  const found = draft.given("tooltip");
  if (!found) return {};
  const { text, path } = found;
  if (text === "none") return { tooltip: null };
  if (Array.isArray(text)) {
    const names = text.map((formula, at) => tooltipChannel(draft, formula, [...path, at], `tip${at}`, true));
    return names.every((name) => name !== undefined) ? { tooltip: names as string[] } : undefined;
  }
  warnPlainWords(draft, String(text), path);
  let sound = true;
  let count = 0;
  const says = wordParts(String(text), (inside): WordPart => {
    const named = namedPart(draft.place.compiling, inside);
    if (typeof named === "object" && "wrong" in named) {
      wrongAt(draft.place, path, "unknown-column", named.wrong);
      sound = false;
      return "";
    }
    if (named !== undefined) return named;
    const channel = tooltipChannel(draft, inside, path, `tip${count++}`, false);
    if (channel === undefined) sound = false;
    return { channel: channel ?? "" };
  });
  return sound ? { says } : undefined;
}

/** A line of words that is the name of a column says that name at every mark; its values are hardly ever not meant. */
function warnPlainWords({ place: { compiling, name, built } }: LayerDraft, text: string, path: Path) {
  if (!built.table.columns.has(text.trim())) return;
  const span = compiling.sheet.source.valueSpan(path);
  addFinding(
    compiling,
    path,
    "plain-words",
    `this tooltip is the word "${text}" itself; its values are said by [${text}]`,
    {
      severity: "warning",
      piece: name,
      ...writeFix(span, `[${text}]`),
    },
  );
}

/** The channel of a formula in a tooltip: one that the layer has already, or one more. */
function tooltipChannel(
  { place, channels, paths }: LayerDraft,
  text: string,
  path: Path,
  tip: string,
  named: boolean,
): string | undefined {
  const { compiling, name, built } = place;
  const read = readChannel({ compiling, path, tableName: built.name, table: built.table, piece: name }, text, {
    named,
  });
  if (!read) return undefined;
  const same = Object.keys(channels).find((key) => channels[key]?.text === read.channel.text);
  if (same !== undefined) return same;
  const grouped = Object.values(channels).some((channel) => channel.aggregate);
  if (grouped && !read.channel.aggregate) Object.assign(channels, oneOfGroup(read.channel, tip));
  else channels[tip] = read.channel;
  paths[tip] = path;
  return tip;
}

/** A column beside groups: its value where a group has one, and how many where it has several. */
function oneOfGroup(channel: Channel, name: string): Record<string, Channel> {
  const of = (aggregate: string): Channel => ({
    ...channel,
    formula: { type: "call", name: aggregate, arguments: [channel.formula] },
    aggregate: true,
  });
  const { interval: _, ...count } = of("distinct");
  const { interval: __, ...first } = of("first");
  return { [name]: { ...first, several: `${name}n` }, [`${name}n`]: { ...count, kind: "number" } };
}
