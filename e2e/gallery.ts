/** Every mark in one report, with rows that are made by arithmetic. */

const BERTHS = ["North", "South", "Granary", "Long Quay"];
const CARGOES = ["fuel", "grain", "salt"];

/** Scattered numbers from 0 up to 1, the same at every run. */
const part = (at: number) => Math.abs((Math.sin(at + 1) * 10_000) % 1);

function calls(): string {
  const lines = Array.from({ length: 240 }, (_, at) => {
    const day = new Date(Date.UTC(2024, 0, 1 + Math.floor(part(at) * 360))).toISOString().slice(0, 10);
    const tonnes = Math.round(100 + part(at + 1000) * 800);
    const waited = (part(at + 2000) ** 2 * 20).toFixed(1);
    return [at, day, BERTHS[at % 4], CARGOES[Math.floor(part(at + 3000) * 3)], tonnes, waited].join(",");
  });
  return `id,day,berth,cargo,tonnes,waited\n${lines.join("\n")}\n`;
}

function districts(): string {
  const features = ["A", "B", "C"].map((district, at) => {
    const [west, south] = [-3 + at, 54.5];
    const ring = [
      [west, south],
      [west, south + 1],
      [west + 1, south + 1],
      [west + 1, south],
      [west, south],
    ];
    return {
      type: "Feature",
      properties: { district, people: 30 + 20 * at },
      geometry: { type: "Polygon", coordinates: [ring] },
    };
  });
  return JSON.stringify({ type: "FeatureCollection", features });
}

const SHEET = `still: 1
report: Gallery
tables:
  calls: {read: calls.csv, columns: {tonnes: {label: Cargo, unit: t}, waited: {unit: h}}}
  ports: {rows: "name,lon,lat,calls\\nMerrow,-3.1,55.2,12\\nSkelling,-2.2,55.9,40\\nOxlow,-0.6,54.2,60\\n"}
  track: {rows: "n,lon,lat,depth\\n1,-3,55,4\\n2,-2.5,55.4,9\\n3,-2,55.1,6\\n4,-1,54.6,12\\n"}
  districts: {read: districts.geojson}
  words: {rows: "w,n\\nharbour,40\\ntide,30\\nquay,25\\nsalt,18\\ngrain,17\\nfuel,12\\n"}
controls:
  first: {set: 2, as: stepper, range: [1, 4]}
  size: {set: 30, as: slider, range: [10, 90]}
  least: {pick: tonnes, from: calls, as: at_least}
  shown: {set: true, as: switch}
  begin: {button: Begin again, does: reset}
charts:
  area: {from: calls, draw: area, x: by_month(day), y: sum(tonnes), color: cargo}
  stream: {from: calls, draw: area, x: by_month(day), y: sum(tonnes), color: cargo, stacking: stream}
  gradient: {from: track, draw: area, x: n, y: depth, gradient: true}
  boxes: {from: calls, draw: boxes, x: berth, y: waited}
  heat: {from: calls, draw: heatmap, x: month(day), y: berth, color: count()}
  slices: {from: calls, draw: slices, color: cargo, value: sum(tonnes), ring: 0.55}
  bubbles: {from: calls, draw: bubbles, label: berth, size: sum(tonnes), color: berth}
  cloud: {from: words, draw: words, label: w, size: sum(n)}
  smooth:
    from: calls
    x: tonnes
    y: waited
    layers:
      - {draw: points, size: $size}
      - {draw: smooth, span: 0.5, color: "#a83a2c"}
      - {draw: trend}
      - {draw: rules, y: waited, keep: id = 3, label: {says: fourth call}}
  density: {from: calls, draw: density, x: waited, color: cargo, adjust: 1.2}
  map:
    from: ports
    lon: lon
    lat: lat
    map: {scale_bar: true, under: [world]}
    layers:
      - {draw: track, from: track, along: n}
      - {draw: points, size: calls, label: name}
  regions: {from: districts, draw: regions, place: place, color: people}
  second:
    from: calls
    x: by_month(day)
    layers:
      - {draw: bars, y: sum(tonnes)}
      - {draw: line, y: mean(waited), color: "#a83a2c", axes: {y: {side: right}}}
  panels: {from: calls, draw: bars, x: by_quarter(day), y: sum(tonnes), panels: cargo}
  spans: {from: calls, keep: id < 12, draw: bars, y: id, x: tonnes, x_to: tonnes + 200, color: cargo}
  most: {from: calls, draw: bars, y: berth, x: sum(tonnes), top: {y: $first, rest: others}}
  figures: {from: calls, draw: figure, value: sum(tonnes), by: cargo, spark: by_month(day)}
  columns: {from: calls, draw: summary, columns: [tonnes, waited, cargo]}
  rows: {from: calls, draw: table, columns: [id, berth, cargo, tonnes], take: [csv, xlsx]}
links:
  - click on heat -> filter all
  - brush xy on smooth -> filter all
  - brush x on panels -> filter slices, rows
  - click on map -> fade 0.2 map
pages:
  - page: Gallery
    height: content
    side: [first, size, least, shown, begin]
    columns: 1fr 1fr 1fr 1fr
    rows: 150px 180px 180px 180px 180px 260px
    grid: |
      figures figures columns columns
      area stream gradient boxes
      heat slices bubbles cloud
      smooth density map regions
      second panels spans most
      rows rows rows rows
`;

export const GALLERY: Readonly<Record<string, string>> = {
  "gallery.still.yaml": SHEET,
  "calls.csv": calls(),
  "districts.geojson": districts(),
};
