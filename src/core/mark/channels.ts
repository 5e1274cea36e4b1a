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
  says: string;
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
  x: { role: "place", says: "Place across.", shown: true, axis: "x" },
  y: { role: "place", says: "Place up.", shown: true, axis: "y" },
  x_to: { role: "place", says: "The other end across.", shown: true, axis: "x" },
  y_to: { role: "place", says: "The other end up.", shown: true, axis: "y" },
  lon: { role: "place", says: "Longitude, in degrees.", shown: true },
  lat: { role: "place", says: "Latitude, in degrees.", shown: true },
  lon_to: { role: "place", says: "Longitude of the other end.", shown: true },
  lat_to: { role: "place", says: "Latitude of the other end.", shown: true },
  place: { role: "place", says: "A column of places, for regions.", shown: false },
  color: {
    role: "look",
    says: 'Colour: text makes categories, numbers and dates a ramp; "#a07f1a" is one colour.',
    constant: "colour",
    shown: true,
  },
  opacity: { role: "look", says: "How much of the ink is seen, 0 to 1.", constant: "number", shown: true },
  size: {
    role: "look",
    says: "The size of points: an area in square pixels; of lines the width of the stroke.",
    constant: "number",
    shown: true,
  },
  symbol: { role: "look", says: "The symbol of points, by category.", shown: true },
  value: { role: "look", says: "The number of a figure, or how large a slice is.", shown: true },
  label: { role: "key", says: "Words at the mark; {says: Your berth} for fixed ones.", constant: "words", shown: true },
  series: { role: "key", says: "Separate lines without a colour.", shown: true },
  along: { role: "order", says: "The order in which a line connects its rows, in place of x.", shown: false },
  above: { role: "order", says: "What is drawn on top: the largest value of the formula.", shown: false },
  identity: { role: "beside", says: "What makes a row the same row in another build.", shown: false },
  panel: { role: "panel", says: "Small charts, one a value.", shown: true, made: true },
  across: { role: "panel", says: "Small charts side by side, one a value.", shown: true, made: true },
  down: { role: "panel", says: "Small charts one under the other, one a value.", shown: true, made: true },
} as const satisfies Record<string, ChannelSpec>;

export type ChannelName = keyof typeof CHANNELS;

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
