import type { Column } from "../table/column";
import { namesThings } from "../table/column-names";
import { separatorIn } from "../table/several-in-cell";
import { type ColumnSummary, summaryOf } from "../table/summary";
import type { Table } from "../table/table";

/** A column and what is known of its values. */
export interface Known {
  name: string;
  summary: ColumnSummary;
}

/** Two columns of degrees that say where something is. */
export interface Position {
  lon: Known;
  lat: Known;
  /** How far apart its rows lie, in degrees. */
  reach: number;
}

/** What the columns of a table can be in a chart, each list with the most telling first. */
export interface Roles {
  rows: number;
  /** Numbers and spans that measure something. */
  measures: Known[];
  /** Texts of few values. */
  groups: Known[];
  /** Texts of many values that stand often enough to be counted. */
  crowds: Known[];
  /** Small whole numbers of few values, such as marks from 1 to 5. */
  scores: Known[];
  moments: Known[];
  /** Numbers that are years. */
  years: Known[];
  /** Columns of places with shapes of their own. */
  places: Known[];
  position?: Position;
  /** A second position of each row: where a way leads that begins at the first. */
  goal?: Position;
  /** Positions follow one another in time, each near the one before. */
  isTrack: boolean;
  all: Known[];
}

/** Names of degrees; what else such a name says, as in `start_lat` and `lat_2`, tells positions apart. */
const LATITUDE = /(?:^|[_ .])(?:lat|latitude)(?=$|[_ .]|\d)/i;
const LONGITUDE = /(?:^|[_ .])(?:lon|lng|long|longitude)(?=$|[_ .]|\d)/i;
const YEAR = /(?:^|[_ ])(?:year|yr)s?$|^year/i;

/** Fewer values than this make groups; more make a crowd. */
const MOST_GROUPS = 40;
/** So many rows a value must have on average to be worth counting. */
const ROWS_A_VALUE = 3;
const MOST_SCORES = 12;

/** A group of which nearly all rows have one value tells little. */
const LOPSIDED = 0.9;

const isNumber = ({ summary: { kind } }: Known) => kind === "number" || kind === "duration";
const isText = ({ summary: { kind } }: Known) => kind === "text" || kind === "boolean";
const isWithin = ({ summary: { range } }: Known, least: number, most: number) =>
  range !== undefined && range.least >= least && range.most <= most;

const isPoor = ({ summary: { rows, missing, values } }: Known): boolean =>
  missing > rows * 0.4 || (values[0]?.rows ?? 0) > (rows - missing) * LOPSIDED;

/** Columns of which much is known, and not nearly always the same, come before others. */
const tellingFirst = (one: Known, other: Known) => Number(isPoor(one)) - Number(isPoor(other));

/** Names of what is earned, paid or sold in all: of several measures people ask for these first. */
const TOTAL = /(?:^|[_ ])(?:amount|sales|revenue|turnover|total|umsatz|betrag|montant|importe|ventas)(?:$|[_ (])/i;

const isTotal = ({ name, summary: { kind } }: Known) => kind === "number" && TOTAL.test(name);
const totalsFirst = (one: Known, other: Known) => Number(isTotal(other)) - Number(isTotal(one));

/** A text of which nearly every row has its own, or that names things. */
const isName = ({ name, summary: { distinct } }: Known, rows: number) =>
  rows > 20 && (distinct > rows * 0.5 || (namesThings(name) && distinct > MOST_GROUPS));

const isWhole = ({ summary: { range } }: Known) =>
  range !== undefined && Number.isInteger(range.least) && Number.isInteger(range.most);

const isScore = (column: Known, rows: number): boolean => {
  const { kind, distinct } = column.summary;
  if (kind !== "number" || distinct < 2 || rows < distinct * ROWS_A_VALUE || !isWhole(column)) return false;
  return distinct <= MOST_SCORES || isCounted(column);
};

/** More values than this are not told one by one. */
const MOST_COUNTED = 60;
/** So many rows each of them must have on average. */
const ROWS_A_COUNT = 8;
/** How far quartiles may lie from where they would if every value stood as often, in parts of the whole. */
const EVEN = 0.12;

/** Names of what is counted from one on, and of parts of a calendar. */
const IN_TURN = new RegExp(
  `(?:^|[_ ])(?:${[
    "meet|round|lane|heat|lap|leg|stage|run|race|game|match|matchday|set|wave|trial|session|season|turn|step",
    "week|weekday|month|quarter|day|hour|minute|floor|page|row|tag|woche|monat|stunde|runde",
  ].join("|")})$`,
  "i",
);

/** Whole numbers from 0 or 1 on that all stand about as often: rounds, lanes, hours of a day. */
function isCounted({ name, summary: { rows, distinct, range } }: Known): boolean {
  if (!IN_TURN.test(name) || !range || distinct > MOST_COUNTED || rows < distinct * ROWS_A_COUNT) return false;
  if (range.least < 0 || range.least > 1) return false;
  const span = range.most - range.least;
  return (
    span === distinct - 1 &&
    range.quartiles.every((quartile, at) => Math.abs((quartile - range.least) / span - (at + 1) / 4) <= EVEN)
  );
}

/**
 * What the columns of a table can be.
 * @param chosen columns that somebody pressed: each comes first in its role, whatever it is like
 */
export function rolesOf(table: Table, chosen: readonly string[] = []): Roles {
  const all = [...table.columns].map(([name, column]): Known => ({ name, summary: summaryOf(column) }));
  const rows = table.rowCount;
  const places = all.filter(({ name }) => isShape(table.columns.get(name)));
  const isChosen = ({ name }: Known) => chosen.includes(name);
  const positions = positionsIn(all);
  const [position, goal] = positions;
  const isPlace = (column: Known) => positions.some(({ lon, lat }) => column === lon || column === lat);
  const years = all.filter((column) => isNumber(column) && YEAR.test(column.name) && isWithin(column, 1000, 2200));
  const scores = all.filter((column) => isScore(column, rows) && !years.includes(column));
  const take = (test: (column: Known) => boolean, isKind: (column: Known) => boolean) => {
    const found = all.filter(
      (column) => !places.includes(column) && isKind(column) && (isChosen(column) || test(column)),
    );
    return [...found].sort(
      (a, b) => Number(isChosen(b)) - Number(isChosen(a)) || tellingFirst(a, b) || totalsFirst(a, b),
    );
  };
  // A chart groups by whole cells, which say little where each holds several values.
  const holdsSeveral = ({ name }: Known) => {
    const column = table.columns.get(name);
    return column?.kind === "text" && separatorIn(column) !== undefined;
  };
  const moments = take(
    ({ summary }) => summary.distinct > 3,
    ({ summary: { kind } }) => kind === "date" || kind === "datetime",
  );
  return {
    rows,
    measures: take(
      (column) =>
        column.summary.distinct > 1 &&
        !namesThings(column.name) &&
        !isPlace(column) &&
        !scores.includes(column) &&
        !years.includes(column),
      isNumber,
    ),
    groups: take(
      (column) =>
        column.summary.distinct >= 2 &&
        column.summary.distinct <= MOST_GROUPS &&
        !isName(column, rows) &&
        !holdsSeveral(column),
      (column) => isText(column) && column.summary.distinct <= MOST_GROUPS,
    ),
    crowds: take(
      (column) => rows >= column.summary.distinct * ROWS_A_VALUE && !holdsSeveral(column),
      ({ summary: { kind, distinct } }) => kind === "text" && distinct > MOST_GROUPS,
    ),
    scores: take(
      (column) => scores.includes(column),
      (column) => scores.includes(column),
    ),
    moments,
    years,
    places,
    ...(position ? { position } : {}),
    ...(goal ? { goal } : {}),
    isTrack: position !== undefined && isTrack(table, position, moments[0]),
    all,
  };
}

const isShape = (column: Column | undefined): boolean => column?.kind === "text" && column.place === true;

/** Columns of degrees of which each latitude has a longitude that is called alike, in their order. */
function positionsIn(all: readonly Known[]): Position[] {
  const degrees = (word: RegExp, most: number) =>
    all.flatMap((column) =>
      isNumber(column) && word.test(column.name) && isWithin(column, -most, most)
        ? [{ column, rest: column.name.replace(word, "").replace(/[_ .]/g, "").toLowerCase() }]
        : [],
    );
  const spanOf = (column: Known) => (column.summary.range?.most ?? 0) - (column.summary.range?.least ?? 0);
  const longitudes = degrees(LONGITUDE, 180);
  return degrees(LATITUDE, 90).flatMap(({ column: lat, rest }) => {
    const lon = longitudes.find((one) => one.rest === rest)?.column;
    return lon ? [{ lon, lat, reach: Math.max(spanOf(lon), spanOf(lat)) }] : [];
  });
}

/** A step from one position to the next is mostly this part of the whole way at the most. */
const SHORT = 0.02;

/** True where rows stand in the order of time and each lies near the one before. */
function isTrack({ columns, rowCount }: Table, { lon, lat, reach }: Position, moment: Known | undefined): boolean {
  const [x, y, time] = [lon, lat, moment].map((own) => own && columns.get(own.name));
  if (!x || !y || !time || x.kind === "text" || y.kind === "text" || time.kind === "text" || rowCount < 10)
    return false;
  let short = 0;
  let forward = 0;
  for (let row = 1; row < rowCount; row++) {
    const step = Math.hypot(
      (x.values[row] as number) - (x.values[row - 1] as number),
      (y.values[row] as number) - (y.values[row - 1] as number),
    );
    if (step <= reach * SHORT) short += 1;
    if ((time.values[row] as number) >= (time.values[row - 1] as number)) forward += 1;
  }
  return short > rowCount * 0.9 && forward > rowCount * 0.95;
}
