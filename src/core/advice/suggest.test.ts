import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { drawSuggestions } from "../look/suggestions";
import { readCsv } from "../read/csv";
import { readGeoJson } from "../read/geojson";
import { compileText } from "../testing/compile-text";
import { rolesOf } from "./roles";
import { suggestCharts, suggestFor } from "./suggest";
import { writeSuggestions } from "./write-suggestions";

const tableOf = (csv: string) => readCsv("t.csv", csv).table;
const suggestionsFor = (csv: string) => suggestCharts("t", tableOf(csv));
const SHEET = "still: 1\nreport: R\ntables:\n  t: {read: t.csv}\n";
const lines = (rows: number, line: (n: number) => string) => Array.from({ length: rows }, (_, n) => line(n)).join("\n");

const DAYS = Array.from({ length: 60 }, (_, n) => `2024-0${1 + (n % 9)}-0${1 + (n % 8)}`);
const CALLS = `call id,day,berth,tonnes,waited h,note\n${DAYS.map((day, n) => `C-${n},${day},${["North", "South", "East"][n % 3]},${100 + ((n * 37) % 91)},${(n * 7) % 23},note ${n}`).join("\n")}\n`;
/** Kinds of tables that people begin with. */
const TABLES: Record<string, string> = {
  calls: CALLS,
  places: `country_code,latitude,longitude,name\n${lines(600, (n) => `K${n % 120},${((n * 37) % 160) - 80},${((n * 53) % 340) - 170},place ${n}`)}\n`,
  track: `time,lat,lon,speed,depth\n${lines(80, (n) => `2024-05-01 ${String(10 + Math.floor(n / 60))}:${String(n % 60).padStart(2, "0")}:00,${50 + n / 500},${4 + n / 400},${(n * 7) % 23},${(n * 3) % 31}`)}\n`,
  log: `at,level,service\n${lines(300, (n) => `2024-03-${String(1 + (n % 28)).padStart(2, "0")} ${String((n * 5) % 24).padStart(2, "0")}:10,${["info", "warn", "error"][n % 3]},${["web", "mail", "feed", "disk"][n % 4]}`)}\n`,
  survey: `age group,answer,region,satisfied\n${lines(200, (n) => `${["young", "old"][n % 2]},${["yes", "no", "unsure"][n % 3]},${["N", "S", "E", "W"][n % 4]},${1 + (n % 5)}`)}\n`,
  numbers: `a,b,c\n${lines(90, (n) => `${n * n},${(n * 31) % 57},${((n * 17) % 89) + 0.5}`)}\n`,
  texts: `a,b\n${lines(40, (n) => `${"xyz"[n % 3]},${n}th`)}\n`,
  years: `year,country,emissions\n${lines(90, (n) => `${1990 + (n % 30)},${["A", "B", "C"][Math.floor(n / 30)]},${(n * 13) % 71}`)}\n`,
  "one column": `n\n${lines(9, (n) => String(n * n))}\n`,
  "odd names": "and,`q`,sum of\nx,1,2\ny,2,3\nx,3,5\ny,4,1\nx,5,9\ny,6,8\nx,7,7\n",
  "one row": "a,b\n1,2\n",
  meets: `round,day,swimmer,heat time\n${lines(160, (n) => `${1 + (n % 16)},2024-0${1 + Math.floor((n % 16) / 2)}-${10 + (n % 2) * 15},${["Ada", "Tom", "Ines"][n % 3]},1:0${n % 10}.${10 + ((n * 7) % 90)}`)}\n`,
  meter: `at,house,kWh\n${lines(480, (n) => `2024-03-${String(1 + Math.floor(n / 48)).padStart(2, "0")} ${String(Math.floor((n % 48) / 2)).padStart(2, "0")}:00,${"AB"[n % 2]},${(n * 37) % 91}.${n % 7}`)}\n`,
};
const shown = (name: string) => suggestionsFor(TABLES[name] as string).map((one) => `${one.name}: ${one.spec.draw}`);

describe("first charts for a table", () => {
  it.each<[string, string[]]>([
    [
      "calls",
      [
        "in_all: figure",
        "over_time: line",
        "by_group: bars",
        "spread: bars",
        "together: points",
        "over_time_each: line",
        "rows: table",
      ],
    ],
    ["places", ["map: points", "in_all: figure", "by_group: bars", "columns: summary", "rows: table"]],
    [
      "track",
      [
        "map: track",
        "in_all: figure",
        "profile: area",
        "spread: bars",
        "profile_2: area",
        "together: points",
        "rows: table",
      ],
    ],
    [
      "log",
      [
        "in_all: figure",
        "over_time: line",
        "clock: heatmap",
        "by_group: bars",
        "by_group_2: bars",
        "in_parts: bars",
        "rows: table",
      ],
    ],
    [
      "survey",
      [
        "in_all: figure",
        "by_group: bars",
        "by_group_2: bars",
        "by_group_3: bars",
        "crossed: heatmap",
        "by_score: bars",
        "rows: table",
      ],
    ],
    [
      "numbers",
      ["in_all: figure", "spread: bars", "together: points", "spread_2: bars", "spread_3: bars", "rows: table"],
    ],
    ["texts", ["in_all: figure", "by_group: bars", "columns: summary", "rows: table"]],
    [
      "years",
      [
        "in_all: figure",
        "over_time: line",
        "by_group: bars",
        "spread: bars",
        "compared: boxes",
        "over_time_each: line",
        "rows: table",
      ],
    ],
  ])("of %s are its own", (name, expected) => {
    expect(shown(name)).toEqual(expected);
  });

  it("say what they measure, in what order, of how many", () => {
    const found = suggestionsFor(CALLS);
    expect(found[0]?.spec.value).toBe("sum(tonnes)");
    expect(found[1]?.spec).toMatchObject({ x: "by_week(day)", y: "sum(tonnes)" });
    expect(found[2]?.spec).toMatchObject({ y: "berth", x: "sum(tonnes)", sort: { y: "-sum(tonnes)" } });
    expect(found[4]?.spec).toMatchObject({ x: "tonnes", y: "`waited h`", color: "berth" });
    const [map, , countries] = suggestionsFor(TABLES.places as string);
    expect(map?.spec).toMatchObject({
      lon: "longitude",
      lat: "latitude",
      map: { under: ["world"], scale_bar: "true" },
    });
    expect(countries?.spec).toMatchObject({
      y: "country_code",
      x: "count()",
      sort: { y: "-count()" },
      top: { y: "15" },
    });
    expect(suggestionsFor(TABLES.years as string)[1]?.spec).toMatchObject({ x: "year" });
  });

  it("take names and numbers of things for neither groups nor measures", () => {
    const formulas = JSON.stringify(
      suggestionsFor(CALLS)
        .slice(0, 5)
        .map(({ spec }) => spec),
    );
    expect(formulas.includes("note")).toBe(false);
    expect(formulas.includes("call id")).toBe(false);
  });

  it("take neither codes in camel's humps for measures nor a group of nearly one value for the first", () => {
    const csv = `state,region,callingCodes,area\n${lines(90, (n) => `${n === 7 ? "user" : "official"},${["N", "S", "W"][n % 3]},${40 + n},${n * 31}`)}\n`;
    const roles = rolesOf(tableOf(csv));
    expect(roles.groups.map(({ name }) => name)).toEqual(["region", "state"]);
    expect(roles.measures.map(({ name }) => name)).toEqual(["area"]);
  });

  it("draw ways from one position to another, and add up no degrees, however the pairs are called", () => {
    const values = lines(
      90,
      (n) => `${n % 4},${54 + (n % 7) / 10},${-3 + (n % 5) / 10},${53 + (n % 6) / 10},${-2 + (n % 9) / 10},${n * 3}`,
    );
    for (const [lat, lon, latTo, lonTo] of [
      ["lat_from", "lon_from", "lat_to", "lon_to"],
      ["start_lat", "start_lng", "end_lat", "end_lng"],
      ["lat1", "lon1", "lat2", "lon2"],
    ]) {
      const csv = `kind,${lat},${lon},${latTo},${lonTo},minutes\n${values}\n`;
      const roles = rolesOf(tableOf(csv));
      expect([roles.position?.lat.name, roles.goal?.lon.name]).toEqual([lat, lonTo]);
      expect(roles.measures.map(({ name }) => name)).toEqual(["minutes"]);
      const [first] = suggestionsFor(csv);
      expect(first?.spec).toMatchObject({ draw: "rules", lon, lat, lon_to: lonTo, lat_to: latTo });
    }
    // A second latitude without its longitude is no position.
    expect(rolesOf(tableOf(`lat,lon,lat_to\n${lines(30, (n) => `${n},${n},${n}`)}\n`)).goal).toBeUndefined();
  });

  it("take what was earned in all before the price of one, which is not added up", () => {
    const csv = `shop,price,pieces,revenue\n${lines(90, (n) => `${["N", "S", "W"][n % 3]},${1 + (n % 17)},${(n * 7) % 23},${n * 31}`)}\n`;
    expect(rolesOf(tableOf(csv)).measures.map(({ name }) => name)).toEqual(["revenue", "price", "pieces"]);
    const prices = csv.replace("revenue", "other").replace("price", "Preis");
    expect(rolesOf(tableOf(prices)).measures[0]?.name).toBe("Preis");
    expect(JSON.stringify(suggestionsFor(prices))).toContain("mean(Preis)");
    expect(JSON.stringify(suggestionsFor(prices))).not.toContain("sum(Preis)");
  });

  it("take shapes of places for a map alone", () => {
    const features = [0, 1, 2].map((at) => ({
      type: "Feature",
      properties: { name: `n${at}`, people: at * 7 },
      geometry: { type: "Point", coordinates: [at, 50 + at] },
    }));
    const { table } = readGeoJson("t.geojson", JSON.stringify({ type: "FeatureCollection", features }));
    const found = suggestCharts("t", table);
    expect(found[0]?.spec).toMatchObject({ draw: "regions", place: "place" });
    expect(found.slice(1).filter(({ uses }) => uses.includes("place"))).toEqual([]);
  });

  it("average what cannot be added up", () => {
    const found = suggestionsFor(`berth,speed\n${lines(12, (n) => `${n % 2 ? "a" : "b"},${n * 3}`)}\n`);
    expect(found[0]?.spec.value).toBe("mean(speed)");
  });

  it("spread what has few values far away by powers of ten", () => {
    const found = suggestionsFor(`n\n${lines(200, (n) => String(1 + (n % 20) + (n === 77 ? 90_000 : 0)))}\n`);
    expect(found.find(({ name }) => name === "spread")?.spec.x).toBe("bin(log10(n), 24)");
  });

  it("do not take steps back and forth for a way", () => {
    const places = TABLES.places as string;
    expect(rolesOf(tableOf(TABLES.track as string)).isTrack).toBe(true);
    const timed = places.replace("name\n", "name,at\n").replace(/(place (\d+))/g, "$1,2024-01-01 0$2:00");
    expect(rolesOf(tableOf(timed)).isTrack).toBe(false);
  });

  it.each(Object.keys(TABLES))("are drawn from the rows and written without a finding: %s", (name) => {
    const csv = TABLES[name] as string;
    const found = suggestionsFor(csv);
    const { text, names } = writeSuggestions(SHEET, found, "t");
    const compiled = compileText(text, { "t.csv": csv });
    expect(compiled.findings.filter(({ severity }) => severity === "error")).toEqual([]);
    expect(compiled.plan.pieces.map((piece) => piece.name)).toEqual(names);
    expect(compiled.unplaced).toEqual([]);
    const bytes = new TextEncoder().encode(csv);
    const input = { text: SHEET, fileName: "s", readFile: (path: string) => (path === "t.csv" ? bytes : undefined) };
    const drawn = drawSuggestions(input, "t", tableOf(csv), [], "light");
    expect(drawn.map((one) => one.name)).toEqual(found.map((one) => one.name));
    for (const { picture, spec } of drawn)
      if (!["figure", "table", "summary"].includes(String(spec.draw)))
        expect([spec.draw, picture.type]).toEqual([spec.draw, "svg"]);
  });

  it("are none for a table without rows", () => {
    expect(suggestionsFor("a,b\n")).toEqual([]);
  });
});

describe("charts for columns that were pressed", () => {
  const found = (...columns: string[]) =>
    suggestFor("t", tableOf(CALLS), columns).map(({ spec }) =>
      `${spec.draw} ${spec.x ?? spec.value ?? ""} ${spec.y ?? ""}`.trim(),
    );
  it("hold all of them, the plainest first", () => {
    expect(found("tonnes")).toEqual([
      "figure sum(tonnes)",
      "bars bin(tonnes, 24) count()",
      "line by_week(day) sum(tonnes)",
      "bars sum(tonnes) berth",
      "boxes tonnes berth",
      "line by_week(day) sum(tonnes)",
    ]);
    expect(found("berth", "day")).toEqual([
      "line by_week(day) count()",
      "area by_week(day) count()",
      "line by_week(day) sum(tonnes)",
      "area by_week(day) sum(tonnes)",
    ]);
    expect(found("waited h", "berth")).toEqual([
      "bars mean(`waited h`) berth",
      "boxes `waited h` berth",
      "line by_week(day) mean(`waited h`)",
      "points `waited h` tonnes",
    ]);
  });
  it("can be of columns that nobody would have proposed", () => {
    expect(found("note")).toEqual(["bars count() note", "bars sum(tonnes) note"]);
    expect(found("call id", "day", "berth")).toEqual([]);
    const odd = suggestFor("t", tableOf(CALLS.replaceAll(/note (\d+)/g, (_, n) => `note ${n % 45}`)), ["note"]);
    expect(odd[0]?.spec).toMatchObject({ draw: "bars", y: "note", x: "count()", top: { y: "15" } });
  });
});

describe("writing them", () => {
  it("leaves what is there as it is, and finds free names", () => {
    const before = `${SHEET}charts:\n  rows: {from: t, draw: table, columns: [day]} # mine\nlinks: []\n`;
    const { text, names } = writeSuggestions(before, suggestionsFor(CALLS).slice(-1), "t");
    expect(names).toEqual(["rows_2"]);
    expect(text.startsWith(before.slice(0, before.indexOf("links:")))).toBe(true);
    expect(text).toContain("links: []");
    expect(text).not.toContain("pages:");
  });
  it("counts rounds one by one, and compares times in place of adding them up", () => {
    const found = suggestionsFor(TABLES.meets as string);
    expect(found.find(({ name }) => name === "by_group")?.spec).toMatchObject({ x: "mean(`heat time`)", y: "swimmer" });
    expect(found.find(({ name }) => name === "by_score")?.spec).toMatchObject({ x: "round", y: "count()" });
    expect(found.some(({ spec }) => JSON.stringify(spec).includes("(round"))).toBe(false);
    // Sixteen days in eight months: weeks between them would part the line.
    expect(found.find(({ name }) => name === "over_time")?.spec).toMatchObject({ x: "day", y: "mean(`heat time`)" });
  });
  it("shows what a meter read at each hour, not how often it was read", () => {
    const [clock] = suggestionsFor(TABLES.meter as string).filter(({ name }) => name === "clock");
    expect(clock?.spec).toMatchObject({
      x: "hour(at)",
      color: "mean(kWh)",
      title: "Mean kWh by hour and weekday",
    });
    const [calls] = suggestionsFor(TABLES.log as string).filter(({ name }) => name === "clock");
    expect(calls?.spec).toMatchObject({ color: "count()" });
  });
  it("leaves a name that is written small and large as it is", () => {
    expect(suggestionsFor(TABLES.meter as string).map(({ spec }) => spec.title)).toContain("kWh over time");
  });
  it("lets a way be followed in all its charts", () => {
    const { text } = writeSuggestions(SHEET, suggestionsFor(TABLES.track as string), "t");
    expect(text).toContain("  - hover x on profile -> crosshair map, profile_2\n");
  });
  it("gives a first page whose rows are filled, and links all charts of the table", () => {
    const { text } = writeSuggestions(SHEET, suggestionsFor(TABLES.survey as string), "t");
    expect(text).toContain("links:\n  - cross-filter t\n");
    expect(text.slice(text.indexOf("pages:"))).toBe(`pages:
  - page: Overview
    height: content
    columns: 1fr 1fr 1fr
    rows: 96px 264px 250px 300px
    grid: |
      in_all     by_group   by_group
      by_group_2 by_group   by_group
      by_group_3 crossed    by_score
      rows       rows       rows
`);
  });
});

describe("whatever a table is like", () => {
  const NAMES = [
    "year",
    "lat",
    "lon",
    "id",
    "a b",
    "of",
    "`",
    "Größe",
    "rate %",
    "at",
    "place",
    "sum(x)",
    "x:y",
    "count",
  ];
  const CELLS: Record<string, fc.Arbitrary<string>> = {
    number: fc.oneof(fc.integer({ min: -90, max: 90 }), fc.double({ min: -1e6, max: 1e6, noNaN: true })).map(String),
    whole: fc.integer({ min: 1990, max: 2026 }).map(String),
    text: fc.constantFrom("x", "y", "z", "a, b", 'quote " in', "- dash", "true", "#1d5f5a"),
    date: fc.integer({ min: 1, max: 28 }).map((day) => `2024-02-${String(day).padStart(2, "0")}`),
    moment: fc
      .integer({ min: 0, max: 23 })
      .map((hour) => `2024-0${1 + (hour % 9)}-03 ${String(hour).padStart(2, "0")}:30`),
    empty: fc.constant(""),
  };
  const cell = (text: string) => `"${text.replaceAll('"', '""')}"`;
  const table = fc.uniqueArray(fc.constantFrom(...NAMES), { minLength: 1, maxLength: 6 }).chain((names) =>
    fc
      .record({
        names: fc.constant(names),
        kinds: fc.array(fc.constantFrom(...Object.keys(CELLS)), { minLength: names.length, maxLength: names.length }),
        rows: fc.integer({ min: 0, max: 40 }),
        chosen: fc.subarray(names, { maxLength: Math.min(2, names.length) }),
      })
      .chain(({ kinds, rows, chosen }) =>
        fc
          .array(
            fc.tuple(
              ...kinds.map((kind) =>
                fc.oneof(
                  { weight: 6, arbitrary: CELLS[kind] as fc.Arbitrary<string> },
                  { weight: 1, arbitrary: fc.constant("") },
                ),
              ),
            ),
            {
              minLength: rows,
              maxLength: rows,
            },
          )
          .map((lines) => ({
            names,
            chosen,
            csv: `${[names, ...lines].map((line) => line.map(cell).join(",")).join("\n")}\n`,
          })),
      ),
  );
  it("what is suggested can be written, stands on a page, and is sound", () => {
    fc.assert(
      fc.property(table, ({ csv, chosen }) => {
        const read = tableOf(csv);
        const own = chosen.filter((name) => read.columns.has(name));
        for (const found of [suggestCharts("t", read), suggestFor("t", read, own)]) {
          const { text, names } = writeSuggestions(SHEET, found, "t");
          const compiled = compileText(text, { "t.csv": csv });
          expect(compiled.findings.filter(({ severity }) => severity === "error")).toEqual([]);
          expect(compiled.plan.pieces.map(({ name }) => name).sort()).toEqual([...names].sort());
        }
      }),
      { numRuns: 60 },
    );
  });
});
