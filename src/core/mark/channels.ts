/**
 * The channels of charts as data: what each is for, and what may stand there beside a formula.
 * Schema, reference, completion, grouping, rows() and tooltips are made from this table.
 */
export type ChannelRole =
  /** Where a mark stands. */
  | "place"
  /** What it looks like. */
  | "look"
  /** What else makes it a mark of its own. */
  | "key"
  /** Which of several small charts it stands in. */
  | "panel"
  /** In which order marks are connected or drawn. */
  | "order"
  /** What only goes along. */
  | "beside";

export interface ChannelSpec {
  role: ChannelRole;
  /** What may be written instead of a formula that has a value for each row. */
  constant?: "number" | "colour" | "words";
  /** It is a key of rows() and a line of the tooltip. */
  shown: boolean;
  /** The axis along which it is placed. */
  axis?: "x" | "y";
  /** Made of another key of the sheet: no key by itself. */
  made?: true;
}

export const CHANNELS = {
  x: { role: "place", shown: true, axis: "x" },
  y: { role: "place", shown: true, axis: "y" },
  x_to: { role: "place", shown: true, axis: "x" },
  y_to: { role: "place", shown: true, axis: "y" },
  lon: { role: "place", shown: true },
  lat: { role: "place", shown: true },
  lon_to: { role: "place", shown: true },
  lat_to: { role: "place", shown: true },
  place: { role: "place", shown: false },
  color: { role: "look", constant: "colour", shown: true },
  opacity: { role: "look", constant: "number", shown: true },
  size: { role: "look", constant: "number", shown: true },
  symbol: { role: "look", shown: true },
  value: { role: "look", shown: true },
  label: { role: "key", constant: "words", shown: true },
  series: { role: "key", shown: true },
  along: { role: "order", shown: false },
  above: { role: "order", shown: false },
  identity: { role: "beside", shown: false },
  panel: { role: "panel", shown: true, made: true },
  across: { role: "panel", shown: true, made: true },
  down: { role: "panel", shown: true, made: true },
} as const satisfies Record<string, ChannelSpec>;

export type ChannelName = keyof typeof CHANNELS;

type Written = {
  [Name in ChannelName]: (typeof CHANNELS)[Name] extends { made: true } ? never : Name;
}[ChannelName];

/** What each is for, in words for authors; those that are made of another key have none. They stay out of the viewer. */
export const CHANNEL_SAYS = {
  x: "Place across.",
  y: "Place up.",
  x_to: "The other end across.",
  y_to: "The other end up.",
  lon: "Longitude, in degrees.",
  lat: "Latitude, in degrees.",
  lon_to: "Longitude of the other end.",
  lat_to: "Latitude of the other end.",
  place: "A column of places, for regions.",
  color: 'Colour: text makes categories, numbers and dates a ramp; "#a07f1a" is one colour.',
  opacity: "How much of the ink is seen, 0 to 1.",
  size: "The size of points: an area in square pixels; of lines the width of the stroke, of rules by a formula too.",
  symbol: "The symbol of points, by category.",
  value: "The number of a figure, or how large a slice is.",
  label: "Words at the mark; {says: Your berth} for fixed ones.",
  series: "Separate lines without a colour.",
  along: "The order in which a line connects its rows, in place of x.",
  above: "What is drawn on top: the largest value of the formula.",
  identity: "What makes a row the same row in another build.",
} as const satisfies Record<Written, string>;

export const CHANNEL_NAMES = Object.keys(CHANNELS) as ChannelName[];

/** The facts of a channel by its name; nothing for names that a chart gives to channels of its own, as for tooltips. */
export function channelSpec(name: string): ChannelSpec | undefined {
  return Object.hasOwn(CHANNELS, name) ? CHANNELS[name as ChannelName] : undefined;
}

/** True for channels by whose values the rows of a grouped chart are told apart. */
export function isGrouping(name: string): boolean {
  const role = channelSpec(name)?.role;
  return role === "place" || role === "look" || role === "key" || role === "panel";
}

/** Those of some channels that rows() and tooltips speak of, in their order. */
export function shownChannels(channels: Readonly<Record<string, unknown>>): string[] {
  return CHANNEL_NAMES.filter((name) => CHANNELS[name].shown && Object.hasOwn(channels, name));
}
