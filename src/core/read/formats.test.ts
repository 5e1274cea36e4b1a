import { gzipSync } from "fflate";
import { parquetWriteBuffer } from "hyparquet-writer";
import { describe, expect, test } from "vitest";
import { kindOf, valueAt } from "../table/column";
import type { Table } from "../table/table";
import { compileFiles, compileText } from "../testing/compile-text";
import { numberCell as number, textCell as text, workbook } from "../testing/workbook";
import { readGeoJson } from "./geojson";
import { readGpx } from "./gpx";
import { guessHeader } from "./texts";

const plain = (table: Table | undefined) =>
  Array.from({ length: table?.rowCount ?? 0 }, (_, row) =>
    [...(table?.columns.values() ?? [])].map((column) => valueAt(column, row)),
  );
const kinds = (table: Table | undefined) =>
  Object.fromEntries([...(table?.columns ?? [])].map(([name, column]) => [name, kindOf(column)]));

/** The table `t` as read from a file, with what the sheet says of it. */
async function read(file: string, bytes: Uint8Array | string, more = "") {
  const compiled = await compileFiles(`still: 1\nreport: T\ntables:\n  t:\n    read: ${file}\n${more}`, {
    [file]: bytes,
  });
  const stages = compiled.stages.get("t");
  return {
    table: stages?.tables[0],
    notes: stages?.report?.notes ?? [],
    report: stages?.report,
    findings: compiled.findings.filter(({ code }) => code !== "no-charts"),
  };
}

describe("workbooks", () => {
  const TRIALS = workbook({
    Trials: [
      [text("Germination 2025")],
      [],
      [text("lot"), text("species"), text("sown"), text("counted"), text("rate")],
      [text("L1"), number(3), number(45717, 1), number(45717.5, 2), number(0.82)],
      [],
      [text("L2"), number(4), number(45718, 1), "", number(0.4)],
    ],
    Species: [
      [text("code"), text("name")],
      [number(3), text("Sea kale")],
      [number(4), text("Thrift")],
    ],
  });
  test("the first sheet, its heads under a title, dates right, empty rows left out", async () => {
    const { table, notes, findings } = await read("trials.xlsx", TRIALS);
    expect(findings).toEqual([]);
    expect(kinds(table)).toEqual({ lot: "text", species: "number", sown: "date", counted: "datetime", rate: "number" });
    expect(plain(table)).toEqual([
      ["L1", 3, Date.UTC(2025, 2, 1) / 1000, Date.UTC(2025, 2, 1, 12) / 1000, 0.82],
      ["L2", 4, Date.UTC(2025, 2, 2) / 1000, null, 0.4],
    ]);
    expect(notes.join("; ")).toContain('the sheet "Trials" of Trials, Species');
    expect(notes.join("; ")).toContain("row 3 names the columns");
    expect(notes.join("; ")).toContain("1 empty row was left out");
  });
  test("the sheet and the row of heads that are asked for", async () => {
    expect(plain((await read("trials.xlsx", TRIALS, "    sheet: Species\n")).table)).toEqual([
      [3, "Sea kale"],
      [4, "Thrift"],
    ]);
    expect(kinds((await read("trials.xlsx", TRIALS, "    sheet: Species\n    header: none\n")).table)).toEqual({
      column_1: "text",
      column_2: "text",
    });
    expect(Object.keys(kinds((await read("trials.xlsx", TRIALS, "    header: 4\n")).table))).toContain("L1");
  });
  test("a sheet that is not there is named with the nearest that is, at its place", async () => {
    const { findings } = await read("trials.xlsx", TRIALS, "    sheet: Specis\n");
    expect(findings[0]).toMatchObject({ code: "no-such-sheet", severity: "error" });
    expect(findings[0]?.message).toContain('did you mean "Species"?');
    expect(findings[0]?.span?.start).toBeGreaterThan(40);
  });
  test("a code is read as text where the sheet asks for it", async () => {
    const { table } = await read("trials.xlsx", TRIALS, "    columns: {species: text}\n");
    expect(plain(table).map(([, species]) => species)).toEqual(["3", "4"]);
  });
  test("no workbook, an empty one", async () => {
    expect((await read("x.xlsx", "not a zip at all")).findings[0]).toMatchObject({
      code: "bad-file",
      severity: "error",
    });
    expect((await read("x.xlsx", workbook({ Only: [] }))).findings[0]).toMatchObject({ code: "empty-file" });
  });
  test("heads stand where the table begins to be wide", () => {
    expect(guessHeader([["Report"], [null], ["a", "b", "c"], ["1", "2", "3"]])).toBe(2);
    expect(guessHeader([])).toBe(0);
  });
});

/** A Zstandard frame of one block that is stored as it is (RFC 8878, 3.1.1). */
function zstdFrame(bytes: Uint8Array): Uint8Array {
  const size = bytes.length;
  const block = (size << 3) | 1;
  return Uint8Array.of(
    0x28,
    0xb5,
    0x2f,
    0xfd,
    0xa0,
    size & 255,
    (size >> 8) & 255,
    (size >> 16) & 255,
    size >>> 24,
    block & 255,
    (block >> 8) & 255,
    (block >> 16) & 255,
    ...bytes,
  );
}

const gzip = (bytes: Uint8Array) => gzipSync(bytes);
const COMPRESSORS = { GZIP: gzip, ZSTD: zstdFrame };

describe("Parquet", () => {
  const columns = [
    { name: "id", data: [1n, 2n, 3n], type: "INT64" as const },
    { name: "cargo", data: ["grain", "grain", null], type: "STRING" as const, nullable: true },
    { name: "tonnes", data: [1.5, 2.25, -3], type: "DOUBLE" as const },
    { name: "open", data: [true, false, true], type: "BOOLEAN" as const },
    {
      name: "at",
      data: [new Date("2025-03-01T06:30:00Z"), new Date("2025-03-02T00:00:00Z"), new Date(0)],
      type: "TIMESTAMP" as const,
    },
  ];
  test.each(["UNCOMPRESSED", "SNAPPY", "GZIP", "ZSTD"] as const)("%s", async (codec) => {
    const bytes = new Uint8Array(
      parquetWriteBuffer({ columnData: columns, codec, compressors: COMPRESSORS } as Parameters<
        typeof parquetWriteBuffer
      >[0]),
    );
    const { table, findings } = await read("calls.parquet", bytes);
    expect(findings).toEqual([]);
    expect(kinds(table)).toEqual({ id: "number", cargo: "text", tonnes: "number", open: "boolean", at: "datetime" });
    expect(plain(table)).toEqual([
      [1, "grain", 1.5, true, Date.UTC(2025, 2, 1, 6, 30) / 1000],
      [2, "grain", 2.25, false, Date.UTC(2025, 2, 2) / 1000],
      [3, null, -3, true, 0],
    ]);
  });
  test("whole numbers beyond what a number holds are kept as text", async () => {
    const bytes = new Uint8Array(
      parquetWriteBuffer({ columnData: [{ name: "id", data: [9007199254740993n, 1n], type: "INT64" }] }),
    );
    expect(plain((await read("x.parquet", bytes)).table)).toEqual([["9007199254740993"], ["1"]]);
  });
  test("a kind that the sheet asks for", async () => {
    const bytes = new Uint8Array(parquetWriteBuffer({ columnData: [{ name: "code", data: [7, 8], type: "INT32" }] }));
    expect(kinds((await read("x.parquet", bytes, "    columns: {code: text}\n")).table)).toEqual({ code: "text" });
  });
  test("nested values become dotted columns, lists one text", async () => {
    const schema = [
      { name: "root", num_children: 2 },
      { name: "ship", num_children: 2, repetition_type: "OPTIONAL" as const },
      {
        name: "name",
        type: "BYTE_ARRAY" as const,
        converted_type: "UTF8" as const,
        repetition_type: "OPTIONAL" as const,
      },
      { name: "length", type: "DOUBLE" as const, repetition_type: "OPTIONAL" as const },
      { name: "n", type: "INT32" as const, repetition_type: "REQUIRED" as const },
    ];
    const bytes = new Uint8Array(
      parquetWriteBuffer({
        schema,
        columnData: [
          { name: "ship", data: [{ name: "Tern", length: 80 }, null] },
          { name: "n", data: [1, 2] },
        ],
      } as Parameters<typeof parquetWriteBuffer>[0]),
    );
    const { table } = await read("x.parquet", bytes);
    expect(kinds(table)).toEqual({ "ship.name": "text", "ship.length": "number", n: "number" });
    expect(plain(table)).toEqual([
      ["Tern", 80, 1],
      [null, null, 2],
    ]);
  });
  test("decimals, days and times of day", async () => {
    const schema = [
      { name: "root", num_children: 4 },
      {
        name: "fee",
        type: "INT64" as const,
        converted_type: "DECIMAL" as const,
        scale: 2,
        precision: 12,
        repetition_type: "OPTIONAL" as const,
      },
      { name: "day", type: "INT32" as const, converted_type: "DATE" as const, repetition_type: "OPTIONAL" as const },
      {
        name: "watch",
        type: "INT64" as const,
        converted_type: "TIME_MICROS" as const,
        repetition_type: "REQUIRED" as const,
      },
      {
        name: "seen",
        type: "INT64" as const,
        logical_type: { type: "TIMESTAMP" as const, isAdjustedToUTC: true, unit: "NANOS" as const },
        repetition_type: "REQUIRED" as const,
      },
    ];
    const columnData = [
      { name: "fee", data: [1234.56, null] },
      { name: "day", data: [new Date("2024-02-29T00:00:00Z"), null] },
      { name: "watch", data: [5_400_000_000n, 1_500_000n] },
      { name: "seen", data: [1_709_164_800_250_000_000n, 0n] },
    ];
    const bytes = new Uint8Array(
      parquetWriteBuffer({ schema, columnData } as Parameters<typeof parquetWriteBuffer>[0]),
    );
    const { table, findings } = await read("fees.parquet", bytes);
    expect(findings).toEqual([]);
    expect(kinds(table)).toEqual({ fee: "number", day: "date", watch: "duration", seen: "datetime" });
    expect(plain(table)).toEqual([
      [1234.56, Date.UTC(2024, 1, 29) / 1000, 5400, Date.UTC(2024, 1, 29) / 1000 + 0.25],
      [null, null, 1.5, 0],
    ]);
  });
  test("damage is said", async () => {
    expect((await read("x.parquet", new Uint8Array(40))).findings[0]).toMatchObject({
      code: "bad-file",
      severity: "error",
    });
  });
});

const GPX = `<?xml version="1.0"?><gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1">
<wpt lat="1" lon="1"><name>Mark</name></wpt>
<trk><name>First &amp; long</name><trkseg><trkpt lat="0" lon="0"><ele>-3.5</ele><time>2025-03-01T06:00:00Z</time></trkpt><trkpt lat="0" lon="1"><time>2025-03-01T07:00:00Z</time></trkpt></trkseg>
<trkseg><trkpt lat="0" lon="5"/><trkpt lat="0" lon="6"/></trkseg></trk>
<trk><trkseg><trkpt lat="91" lon="0"/></trkseg></trk></gpx>`;

describe("GPX", () => {
  test("points with track, segment, time, elevation and distance along", () => {
    const { table, report, findings } = readGpx("t.gpx", GPX);
    expect(findings).toEqual([]);
    expect([...table.columns.keys()]).toEqual(["track", "segment", "time", "lat", "lon", "elevation", "distance_km"]);
    const degree = 111.19508;
    const rounded = plain(table).map((row) =>
      row.map((value) => (typeof value === "number" ? Math.round(value * 1000) / 1000 : value)),
    );
    expect(rounded).toEqual([
      ["First & long", 1, Date.UTC(2025, 2, 1, 6) / 1000, 0, 0, -3.5, 0],
      ["First & long", 1, Date.UTC(2025, 2, 1, 7) / 1000, 0, 1, null, Math.round(degree * 1000) / 1000],
      ["First & long", 2, null, 0, 5, null, Math.round(degree * 1000) / 1000],
      ["First & long", 2, null, 0, 6, null, Math.round(degree * 2000) / 1000],
      ["track 2", 1, null, null, 0, null, 0],
    ]);
    expect(report.notes).toEqual(["1 marked places were left out beside the tracks"]);
  });
  test("marked places where nothing else is there, and a clock of its own", () => {
    const { table } = readGpx(
      "t.gpx",
      '<gpx><wpt lat="1" lon="2"><name>Buoy</name><time>2025-03-01T23:30:00Z</time></wpt></gpx>',
      { zone: { seconds: 3600, name: "+01:00" } },
    );
    expect(plain(table)[0]?.slice(0, 5)).toEqual(["Buoy", 1, Date.UTC(2025, 2, 2, 0, 30) / 1000, 1, 2]);
    expect(table.info.get("time")?.unit).toBe("+01:00");
  });
  test("two tracks of one name are not joined by what lies between them", () => {
    const leg = (lat: number) =>
      `<trk><name>Loop</name><trkseg><trkpt lat="${lat}" lon="0"/><trkpt lat="${lat}" lon="0.1"/></trkseg></trk>`;
    const rows = plain(readGpx("t.gpx", `<gpx>${leg(0)}${leg(51)}</gpx>`).table);
    expect(rows.map(([track, segment]) => `${track} ${segment}`)).toEqual(["Loop 1", "Loop 1", "Loop 2", "Loop 2"]);
    expect(rows.map((row) => Math.round(row.at(-1) as number))).toEqual([0, 11, 0, 7]);
  });
  test("a track without points stands in nothing's way", () => {
    const empty = "<trk><name>Later</name><trkseg/></trk>";
    expect(
      plain(readGpx("t.gpx", `<gpx>${empty}<wpt lat="1" lon="2"><name>Buoy</name></wpt></gpx>`).table)[0]?.[0],
    ).toBe("Buoy");
    expect(
      plain(readGpx("t.gpx", `<gpx>${empty}<rte><name>Way</name><rtept lat="1" lon="2"/></rte></gpx>`).table)[0]?.[0],
    ).toBe("Way");
  });
  test("damage has a line and a column", () => {
    expect(readGpx("t.gpx", "<gpx>\n<trk></gpx>").findings[0]?.message).toContain("line 2");
    expect(readGpx("t.gpx", "<gpx></gpx>").findings[0]).toMatchObject({ code: "empty-file" });
    expect(readGpx("t.gpx", "<kml></kml>").findings[0]?.message).toContain("no gpx element");
  });
});

describe("GeoJSON", () => {
  const feature = (properties: object, geometry: object | null, more = {}) => ({
    type: "Feature",
    properties,
    geometry,
    ...more,
  });
  test("features become rows with a place", () => {
    const whole = {
      type: "FeatureCollection",
      features: [
        feature(
          { name: "North", size: { km: 2 } },
          { type: "Point", coordinates: [1, 2], bbox: [1, 2, 1, 2] },
          { id: 7 },
        ),
        feature({ name: "South" }, null),
        feature({}, { type: "Point", coordinates: ["x"] }),
      ],
    };
    const { table, report } = readGeoJson("c.geojson", JSON.stringify(whole));
    expect(kinds(table)).toEqual({ id: "number", name: "text", "size.km": "number", place: "place" });
    expect(plain(table)).toEqual([
      [7, "North", 2, '{"type":"Point","coordinates":[1,2]}'],
      [null, "South", null, null],
      [null, null, null, null],
    ]);
    expect(report.notes).toEqual([
      "1 features have no geometry",
      "1 geometries are none by the standard; their place is missing",
    ]);
  });
  test("an id of the feature stands beside a property of that name, unless they are the same", () => {
    const collection = (...features: object[]) =>
      readGeoJson("c.geojson", JSON.stringify({ type: "FeatureCollection", features })).table;
    const other = collection(feature({ id: "b-7" }, null, { id: 7 }), feature({}, null, { id: 8 }));
    expect(Object.keys(kinds(other))).toEqual(["feature_id", "id", "place"]);
    expect(plain(other)).toEqual([
      [7, "b-7", null],
      [8, null, null],
    ]);
    expect(Object.keys(kinds(collection(feature({ id: 7 }, null, { id: 7 }))))).toEqual(["id", "place"]);
  });
  test("ids beyond 2^53 stay two", () => {
    const text =
      '{"type":"FeatureCollection","features":[{"type":"Feature","properties":{"n":9007199254740993},"geometry":null},{"type":"Feature","properties":{"n":9007199254740992},"geometry":null}]}';
    expect(plain(readGeoJson("c.geojson", text).table).map(([n]) => n)).toEqual([
      "9007199254740993",
      "9007199254740992",
    ]);
  });
  test("a property called place keeps its name", () => {
    expect(
      Object.keys(
        kinds(
          readGeoJson("c.geojson", JSON.stringify(feature({ place: "here" }, { type: "Point", coordinates: [1, 2] })))
            .table,
        ),
      ),
    ).toEqual(["place", "place_2"]);
  });
  test("is known by its type in a .json file too, and refused where it is none", async () => {
    expect(
      kinds(
        (
          await read(
            "c.json",
            JSON.stringify({
              type: "FeatureCollection",
              features: [
                feature(
                  { a: 1 },
                  {
                    type: "LineString",
                    coordinates: [
                      [0, 0],
                      [1, 1],
                    ],
                  },
                ),
              ],
            }),
          )
        ).table,
      ),
    ).toEqual({ a: "number", place: "place" });
    expect((await read("c.geojson", "[1, 2")).findings[0]?.message).toContain("line 1, column 6");
    expect((await read("c.geojson", '{"type": "FeatureCollection", "features": []}')).findings[0]).toMatchObject({
      code: "empty-file",
    });
  });
  test("a place stays one through steps and into the file", () => {
    const compiled = compileText(
      "still: 1\nreport: T\ntables:\n  t:\n    read: c.geojson\n    steps:\n      - keep: a > 1\n      - add: {where: place}\ncharts:\n  shown: {draw: table, from: t, columns: [a, where]}\n",
      {
        "c.geojson": JSON.stringify({
          type: "FeatureCollection",
          features: [
            feature({ a: 1 }, { type: "Point", coordinates: [0, 0] }),
            feature({ a: 2 }, { type: "Point", coordinates: [3, 4] }),
          ],
        }),
      },
    );
    expect(compiled.findings.filter(({ severity }) => severity === "error")).toEqual([]);
    expect(kinds(compiled.tables.get("t"))).toEqual({ a: "number", where: "place" });
  });
});

describe("several files as one table", () => {
  const files = {
    "wharf-north.csv": "day,t\n2025-01-01,1\n",
    "wharf-south.csv": "day,t,note\n2025-01-02,x,late\n",
    "other.csv": "a\n1\n",
    "deep/wharf-x.csv": "day,t\n2025-01-01,9\n",
  };
  const stacked = (more: string) => {
    const compiled = compileText(`still: 1\nreport: T\ntables:\n  t:\n    read: "wharf-*.csv"\n${more}`, files);
    return {
      table: compiled.stages.get("t")?.tables[0],
      notes: compiled.stages.get("t")?.report?.notes ?? [],
      findings: compiled.findings,
    };
  };
  test("stand one under the other with what differs in their names", () => {
    const { table, notes } = stacked("    file_as: wharf\n");
    expect(plain(table)).toEqual([
      [Date.UTC(2025, 0, 1) / 1000, "1", null, "north"],
      [Date.UTC(2025, 0, 2) / 1000, "x", "late", "south"],
    ]);
    expect(notes.join("; ")).toContain("2 files, one under the other: wharf-north.csv, wharf-south.csv");
    expect(notes.join("; ")).toContain("wharf-north.csv lacks note");
    expect(notes.join("; ")).toContain("t hold different kinds in different files and were read as text");
  });
  test("a kind that the sheet asks for holds in all of them, and what is lost is counted over all", () => {
    const { table, findings } = stacked("    columns: {t: number}\n");
    expect(plain(table).map(([, t]) => t)).toEqual([1, null]);
    expect(findings.find(({ code }) => code === "unread-cells")?.message).toContain('"x" in row 2');
  });
  test("a pattern that fits none is an error at its place", () => {
    const { findings } = compileText('still: 1\nreport: T\ntables:\n  t:\n    read: "pier-*.csv"\n', files);
    expect(findings.find(({ code }) => code === "no-such-file")?.span?.start).toBeGreaterThan(30);
  });
});
