import { writeName } from "../formula/words";
import type { SheetValue } from "../sheet/edit/edit";
import { type Grain, grainFor } from "../table/calendar";
import { capital } from "../table/column-names";
import type { Known, Roles } from "./roles";

type Spec = { [key: string]: SheetValue };

/** A chart that could be a look at a table. */
export interface Suggestion {
  name: string;
  /** Why it is worth a look, in words. */
  why: string;
  spec: Spec;
  /** The columns that it shows. */
  uses: string[];
}

/** Looks of one family: of some only so many are worth a page. */
export interface Rule {
  family: "figure" | "time" | "group" | "spread" | "together" | "place" | "cells" | "rows";
  looks: (roles: Roles, tableName: string) => Suggestion[];
}

/** Measures that mean nothing when they are added up. */
const NOT_ADDED = new RegExp(
  [
    "rate|share|percent|ratio|mean|average|median|price|discount|score|index|level|age|month|day|hour|wait|latency",
    "temp|speed|pressure|depth|draft|height|elev|alti|size|width|length",
    "preis|prix|precio|prezzo|rabatt|anteil|quote|durchschnitt|taux|moyen",
  ].join("|"),
  "i",
);
/** Lengths of time that are compared, and not added up. */
const CLOCKED = /(?:^|[_ ])(?:time|pace|lap|split|zeit)s?$/i;
/** More rows than this are shown by how densely they lie. */
const CROWDED = 20_000;
const MOST_COLORS = 8;
/** So many of the most frequent values stand in a chart of a crowd. */
const FIRST = 15;
/** Nearer together than this, the outlines of countries say nothing. */
const WIDE = 3;

const label = (name: string) => name.replaceAll("_", " ");

interface Measured {
  formula: string;
  words: string;
  uses: string[];
}

/** The first measure as one number, added up where that means something; without one, the rows. */
function measuredOf({ measures: [first] }: Roles, table: string): Measured {
  if (!first) return { formula: "count()", words: `Rows of ${label(table)}`, uses: [] };
  const { least = 0 } = first.summary.range ?? {};
  const isClocked = first.summary.kind === "duration" && CLOCKED.test(first.name);
  const isAdded = !NOT_ADDED.test(first.name) && !isClocked && least >= 0;
  return isAdded
    ? { formula: `sum(${writeName(first.name)})`, words: capital(label(first.name)), uses: [first.name] }
    : { formula: `mean(${writeName(first.name)})`, words: `Mean ${label(first.name)}`, uses: [first.name] };
}

const few = (roles: Roles): Known | undefined => roles.groups.find(({ summary }) => summary.distinct <= MOST_COLORS);

const HOUR = 3600;
const DAY = 24 * HOUR;
/** Of periods about so many seconds. */
const SECONDS: Readonly<Record<Grain, number>> = {
  minute: 60,
  hour: HOUR,
  day: DAY,
  week: 7 * DAY,
  month: 30.44 * DAY,
  quarter: 91.3 * DAY,
  year: 365.25 * DAY,
};
/** More moments than this are put together in periods. */
const MOST_MOMENTS = 60;

/** The time along which a table runs: moments in periods, or years as they are. */
function timeOf({ moments: [moment], years: [year] }: Roles): { formula: string; name: string } | undefined {
  if (moment?.summary.range) {
    const { least, most } = moment.summary.range;
    const grain = grainFor(most - least);
    const periods = (most - least) / SECONDS[grain] + 1;
    const own = writeName(moment.name);
    // Between days that lie far apart there are periods without rows, which would part a line or pull it to zero.
    const isSparse = moment.summary.distinct <= MOST_MOMENTS && periods > moment.summary.distinct * 1.3;
    return { formula: isSparse ? own : `by_${grain}(${own})`, name: moment.name };
  }
  return year && { formula: writeName(year.name), name: year.name };
}

/** What lies under a map, by how far apart its rows lie in degrees. */
const groundOf = (reach: number): Spec => ({
  map: { ...(reach > WIDE ? { under: ["world"] } : {}), scale_bar: "true" },
});

/** So many lines over one another can still be told apart where they are faint. */
const MOST_WAYS = 5000;

/** A line from where each row begins to where it leads; nothing where it leads nowhere, or there are too many. */
function wayLook({ position, goal, rows }: Roles, table: string): Suggestion | undefined {
  if (!position || !goal || rows > MOST_WAYS) return undefined;
  const names = { lon: position.lon.name, lat: position.lat.name, lon_to: goal.lon.name, lat_to: goal.lat.name };
  const ends = Object.fromEntries(Object.entries(names).map(([channel, name]) => [channel, writeName(name)]));
  const opacity = rows > 200 ? "0.2" : "0.6";
  const ground = groundOf(Math.max(position.reach, goal.reach));
  const spec = {
    from: table,
    title: "Where they go",
    draw: "rules",
    ...ends,
    opacity,
    ...ground,
  };
  return { name: "ways", why: "from where to where", spec, uses: Object.values(names) };
}

const map: Rule = {
  family: "place",
  looks: (roles, table) => {
    const { position, isTrack, moments, rows, places, measures } = roles;
    const [shape, measure] = [places[0], measures[0]];
    if (!position) {
      if (!shape) return [];
      const color: Spec = measure ? { color: writeName(measure.name) } : {};
      const uses = [shape.name, ...(measure ? [measure.name] : [])];
      const spec = { from: table, title: "Map", draw: "regions", place: writeName(shape.name), ...color };
      return [{ name: "map", why: "how it differs from place to place", spec, uses }];
    }
    const { lon, lat, reach } = position;
    const place = { lon: writeName(lon.name), lat: writeName(lat.name) };
    const ground = groundOf(reach);
    const uses = [lon.name, lat.name];
    if (isTrack) {
      const along = writeName((moments[0] as Known).name);
      const spec = { from: table, title: "The way", draw: "track", ...place, along, size: "2", ...ground };
      return [{ name: "map", why: "where it went", spec, uses: [...uses, (moments[0] as Known).name] }];
    }
    const group = few(roles);
    const ways = wayLook(roles, table);
    const isCrowd = rows > CROWDED;
    const look: Spec = isCrowd
      ? { shade: "density" }
      : { ...(group ? { color: writeName(group.name) } : {}), opacity: "0.7" };
    const [title, why] = ways ? ["Where they begin", "where they begin"] : ["Where they are", "where they are"];
    const spec = { from: table, title, draw: "points", ...place, ...look, ...ground };
    const colored = group && !isCrowd ? [group.name] : [];
    return [...(ways ? [ways] : []), { name: "map", why, spec, uses: [...uses, ...colored] }];
  },
};

const figure: Rule = {
  family: "figure",
  looks: (roles, table) => {
    const { formula, words, uses } = measuredOf(roles, table);
    const spec = { from: table, title: words, draw: "figure", value: formula, against: `${formula} of all` };
    return [{ name: "in_all", why: "how much there is", spec, uses }];
  },
};

const time: Rule = {
  family: "time",
  looks: (roles, table) => {
    const found: Suggestion[] = [];
    const [moment, along] = [roles.moments[0], timeOf(roles)];
    if (roles.isTrack && moment)
      // A log along the way has one value at every moment: it is shown as it is.
      for (const [at, { name }] of roles.measures.slice(0, 2).entries())
        found.push({
          name: at ? "profile_2" : "profile",
          why: `how ${label(name)} changed on the way`,
          spec: {
            from: table,
            title: `${capital(label(name))} on the way`,
            draw: "area",
            x: writeName(moment.name),
            y: writeName(name),
          },
          uses: [moment.name, name],
        });
    if (!along || roles.isTrack) return found;
    const { formula, words, uses } = measuredOf(roles, table);
    const base = { from: table, draw: "line", x: along.formula, y: formula };
    found.push({
      name: "over_time",
      why: "how it went",
      spec: { ...base, title: `${words} over time` },
      uses: [along.name, ...uses],
    });
    const group = few(roles);
    if (!group) return found;
    const each = { ...base, color: writeName(group.name) };
    const [title, shown] = [`${words} over time by ${label(group.name)}`, [along.name, group.name, ...uses]];
    found.push({ name: "over_time_each", why: "who rose and who fell", spec: { ...each, title }, uses: shown });
    if (formula.startsWith("mean")) return found;
    found.push({
      name: "shares_over_time",
      why: "which part each had",
      spec: { ...each, title: `${title}, in parts`, draw: "area", stacking: "percent" },
      uses: shown,
    });
    return found;
  },
};

const group: Rule = {
  family: "group",
  looks: (roles, table) => {
    const { formula, words, uses } = measuredOf(roles, table);
    const bars = ({ name, summary }: Known, at: number): Suggestion => {
      const isMany = summary.distinct > FIRST + 5;
      const title = isMany ? `${words}: the first ${FIRST} of ${label(name)}` : `${words} by ${label(name)}`;
      const top: Spec = isMany ? { top: { y: String(FIRST) } } : {};
      const spec = {
        from: table,
        title,
        draw: "bars",
        y: writeName(name),
        x: formula,
        sort: { y: `-${formula}` },
        ...top,
      };
      return { name: at ? `by_group_${at + 1}` : "by_group", why: "where it comes from", spec, uses: [name, ...uses] };
    };
    const scores = ({ name }: Known, at: number): Suggestion => ({
      name: at ? `by_score_${at + 1}` : "by_score",
      why: "how often each was given",
      spec: {
        from: table,
        title: `How often each ${label(name)}`,
        draw: "bars",
        x: writeName(name),
        y: "count()",
        axes: { x: { scale: "category" } },
      },
      uses: [name],
    });
    // Few values side by side with many: who is large among all, and what kinds there are.
    const [first, ...others] = roles.groups;
    const [crowd, ...crowds] = roles.crowds;
    const ordered = [first, crowd, ...others, ...crowds].filter((one) => one !== undefined);
    const parts = few({ ...roles, groups: others });
    const both: Suggestion[] =
      first && parts
        ? [
            {
              name: "in_parts",
              why: "of what each is made",
              spec: {
                ...bars(first, 0).spec,
                title: `${words} by ${label(first.name)} and ${label(parts.name)}`,
                color: writeName(parts.name),
              },
              uses: [first.name, parts.name, ...uses],
            },
          ]
        : [];
    return [...ordered.map(bars), ...roles.scores.map(scores), ...(formula.startsWith("mean") ? [] : both)];
  },
};

/** True where few values far away would leave one bar to all others. */
function isLopsided({ summary: { range } }: Known): boolean {
  if (!range || range.least <= 0) return false;
  return range.quartiles[2] - range.least < (range.most - range.least) / 50;
}

const spread: Rule = {
  family: "spread",
  looks: ({ measures }, table) =>
    measures
      .filter(({ summary }) => summary.distinct > 5)
      .map((column, at): Suggestion => {
        const { name } = column;
        const isLog = isLopsided(column) && column.summary.kind === "number";
        const x = isLog ? `bin(log10(${writeName(name)}), 24)` : `bin(${writeName(name)}, 24)`;
        const axes: Spec = isLog ? { axes: { x: { title: `${label(name)}, as a power of ten` } } } : {};
        return {
          name: at ? `spread_${at + 1}` : "spread",
          why: isLog ? "few are far larger than the rest" : "which values are usual",
          spec: { from: table, title: `How ${label(name)} spreads`, draw: "bars", x, y: "count()", ...axes },
          uses: [name],
        };
      }),
};

const together: Rule = {
  family: "together",
  looks: (roles, table) => {
    const [measure, second] = roles.measures;
    const found: Suggestion[] = [];
    const color = few(roles);
    if (measure && second) {
      const isCrowd = roles.rows > CROWDED;
      const look: Spec = isCrowd
        ? { shade: "density" }
        : { ...(color ? { color: writeName(color.name) } : {}), opacity: "0.5" };
      const title = `${capital(label(second.name))} against ${label(measure.name)}`;
      const spec = {
        from: table,
        title,
        draw: "points",
        x: writeName(measure.name),
        y: writeName(second.name),
        ...look,
      };
      const uses = [measure.name, second.name, ...(color && !isCrowd ? [color.name] : [])];
      found.push({ name: "together", why: "what goes together", spec, uses });
    }
    const own = roles.groups[0];
    if (measure && own && measure.summary.distinct > 5 && own.summary.distinct <= FIRST)
      found.push({
        name: "compared",
        why: "how far each of them ranges",
        spec: {
          from: table,
          title: `${capital(label(measure.name))} in each ${label(own.name)}`,
          draw: "boxes",
          x: writeName(measure.name),
          y: writeName(own.name),
        },
        uses: [measure.name, own.name],
      });
    return found;
  },
};

/** True for moments that lie evenly, as those of a meter that is read every so often. */
function isRegular({ summary: { range, distinct } }: Known): boolean {
  const step = range ? (range.most - range.least) / (distinct - 1) : 0;
  return Number.isInteger(step) && step >= 60 && 86400 % step === 0;
}

const cells: Rule = {
  family: "cells",
  looks: (roles, table) => {
    const { moments, groups, isTrack } = roles;
    const found: Suggestion[] = [];
    const isLong = ({ range }: Known["summary"]) => range !== undefined && range.most - range.least > 6 * 86400;
    const moment = moments.find(({ summary }) => summary.kind === "datetime" && isLong(summary) && !isTrack);
    const heat = (
      name: string,
      why: string,
      title: string,
      [x, y]: [string, string],
      uses: string[],
      color = "count()",
    ) => found.push({ name, why, spec: { from: table, title, draw: "heatmap", x, y, color }, uses });
    if (moment) {
      const name = writeName(moment.name);
      const places: [string, string] = [`hour(${name})`, `weekday(${name})`];
      const [measure] = isRegular(moment) ? roles.measures : [];
      // Readings are as many at every hour: what was read is the news.
      if (measure)
        heat(
          "clock",
          "how high at which hours of which days",
          `Mean ${label(measure.name)} by hour and weekday`,
          places,
          [moment.name, measure.name],
          `mean(${writeName(measure.name)})`,
        );
      else heat("clock", "at which hours of which days", "Hours of the week", places, [moment.name]);
    }
    const [first, second] = groups;
    if (first && second)
      heat(
        "crossed",
        "which go with which",
        `${capital(label(first.name))} and ${label(second.name)}`,
        [writeName(second.name), writeName(first.name)],
        [first.name, second.name],
      );
    return found;
  },
};

const rows: Rule = {
  family: "rows",
  looks: ({ all, places }, table) => {
    const shown = all.filter((column) => !places.includes(column)).slice(0, 8);
    const columns = shown.map(({ name }) => writeName(name));
    const uses = shown.map(({ name }) => name);
    return [
      {
        name: "columns",
        why: "what each column holds",
        spec: { from: table, title: "Columns", draw: "summary", columns },
        uses,
      },
      { name: "rows", why: "the rows themselves", spec: { from: table, title: "Rows", draw: "table", columns }, uses },
    ];
  },
};

/** The most telling first. */
export const RULES: readonly Rule[] = [map, figure, time, group, cells, spread, together, rows];
