import { queriesOf } from "../chart/piece-formulas";
import { familiesOf, pathUp } from "../link/route";
import type { Plan } from "../plan/plan";
import type { Channel } from "../query/query";

/** What its file said of a column, beside its values. */
export interface ShownWords {
  unit?: string;
  format?: string;
}

/** Channels of a plan that show a column as it stands, each with the table that it is of. */
function columnsShown({ pieces, controls }: Plan): [table: string, channel: Channel][] {
  const queries = pieces.flatMap(({ plan }) => queriesOf(plan));
  const ofPieces = queries.flatMap(({ from, channels }) => Object.values(channels).map((one) => [from, one] as const));
  const ofControls = controls.flatMap((one) => ("channel" in one ? [[one.from, one.channel] as const] : []));
  return [...ofPieces, ...ofControls].flatMap(([from, channel]) => (channel.column ? [[from, channel]] : []));
}

/**
 * What the file of a table said of its columns, as a dashboard shows it: units that stood in cells, and the words for
 * what is true and what is not. The rows that are written for it have none of them any more.
 */
export function shownWords(plan: Plan, table: string): ReadonlyMap<string, ShownWords> {
  const familyOf = familiesOf(plan.tables);
  const words = new Map<string, ShownWords>();
  for (const [from, { column = "", unit, format, kind }] of columnsShown(plan)) {
    if (!pathUp(from, familyOf).includes(table)) continue;
    const own = { ...(unit === undefined ? {} : { unit }), ...(kind === "boolean" && format ? { format } : {}) };
    words.set(column, { ...own, ...words.get(column) });
  }
  return words;
}
