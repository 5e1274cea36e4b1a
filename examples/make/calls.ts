import { Random } from "./random";

/** Berths of Merrow Sound with their places and what each is used for. All of it is made up. */
export const BERTHS = [
  { berth: "Long Quay", code: "LQ", lat: 54.2113, lon: -3.4521, depth: 11.5, weight: 26 },
  { berth: "Salt Steps", code: "SS", lat: 54.2098, lon: -3.4487, depth: 9.2, weight: 21 },
  { berth: "North Mole", code: "NM", lat: 54.2161, lon: -3.444, depth: 13.0, weight: 17 },
  { berth: "Granary", code: "GR", lat: 54.2085, lon: -3.4462, depth: 8.4, weight: 14 },
  { berth: "East Basin", code: "EB", lat: 54.2072, lon: -3.4398, depth: 10.1, weight: 11 },
  { berth: "Old Dock", code: "OD", lat: 54.2059, lon: -3.4451, depth: 6.3, weight: 7 },
  { berth: "Ballast Pier", code: "BP", lat: 54.2039, lon: -3.4376, depth: 7.7, weight: 4 },
] as const;

const CARGO = [
  ["grain", 30],
  ["fuel", 24],
  ["timber", 20],
  ["salt", 11],
  ["containers", 13],
  ["stone", 2],
] as const;
const FIRST = [
  "Marrow",
  "Corvid",
  "Tern",
  "Bright",
  "Salt",
  "Old",
  "Grey",
  "Silver",
  "Amber",
  "Fen",
  "Moor",
  "Hollow",
  "Wren",
  "Heron",
  "Juniper",
  "Alder",
  "Bracken",
  "Cinder",
  "Dunlin",
  "Ember",
];
const SECOND = [
  "Lass",
  "water",
  "Hollow",
  "Meg",
  "marsh",
  "Reach",
  "Lantern",
  "Drift",
  "Harrow",
  "Spar",
  "Kestrel",
  "Tide",
  "Ridge",
  "Sound",
  "Ness",
  "Grace",
];
const REMARKS = [
  "",
  "",
  "",
  "",
  "",
  "fog, pilot late",
  "shifted berth at night",
  'master asked for "fresh water"',
  "hatch 2 leaking; survey called",
  "crane stopped for wind",
  "paperwork late",
  "noise complaint from town",
  "two tugs",
  "draft over plan",
];

export const CALL_HEADS = "call_id,vessel,berth,cargo,arrived,left,planned,waited,alongside,weight,tonnes,remarks";

const two = (value: number) => String(value).padStart(2, "0");

function minuteText(seconds: number): string {
  const date = new Date(seconds * 1000);
  return `${date.getUTCFullYear()}-${two(date.getUTCMonth() + 1)}-${two(date.getUTCDate())} ${two(date.getUTCHours())}:${two(date.getUTCMinutes())}`;
}

/** A moment written as somebody in another office writes it. */
function oddText(seconds: number): string {
  const date = new Date(seconds * 1000);
  return `${date.getUTCDate()}. ${date.getUTCMonth() + 1}. ${date.getUTCFullYear()}`;
}

const clock = (seconds: number) =>
  `${Math.floor(seconds / 3600)}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}`;
const cell = (text: string) => (/[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

const START = Date.UTC(2023, 0, 1) / 1000;
const SPAN = 3 * 365.25 * 86400;
const LAST_DAY = START + SPAN - 86400;

/** Vessel calls as lines of CSV, in the order of arrival, with the flaws that such lists have. */
export function* callLines(count: number, seed: number): Generator<string> {
  const random = new Random(seed);
  const vessels = Array.from(
    { length: 412 },
    (_, i) =>
      `${FIRST[i % FIRST.length]} ${SECOND[Math.floor(i / FIRST.length) % SECOND.length]}${i >= FIRST.length * SECOND.length ? " II" : ""}`,
  );
  const berths = BERTHS.map(({ berth, weight }) => [berth, weight] as const);
  yield CALL_HEADS;
  for (let i = 0; i < count; i++) {
    const through = (i + random.next() * 0.8) / count;
    const season = 1 + 0.25 * Math.sin(through * 3 * 2 * Math.PI);
    const arrived = Math.round((START + SPAN * through) / 60) * 60;
    const cargo = random.weighted(
      CARGO.map(
        ([name, weight]) =>
          [
            name,
            name === "grain"
              ? weight * season
              : name === "containers"
                ? weight * (0.5 + through)
                : name === "salt"
                  ? weight * (1.4 - through)
                  : weight,
          ] as const,
      ),
    );
    const berth = random.weighted(berths);
    const weight = Math.round(Math.exp(7.6 + random.normal() * 0.9));
    const waited = Math.max(
      0,
      12 + random.normal() * 6.5 + (random.next() < 0.12 ? random.between(4, 24) : 0) + Math.log(weight / 2000) * 1.2,
    );
    const load = Math.round(weight * random.between(0.35, 0.92));
    const alongside = Math.round(3600 * (3 + load / (cargo === "fuel" ? 700 : 320) + Math.abs(random.normal()) * 4));
    const planned = arrived + Math.round(random.normal() * 9 + 2) * 3600;
    const open = arrived > LAST_DAY - 9 * 86400 && random.next() < 0.9;
    const cells = [
      `C-${20001 + i}`,
      random.pick(vessels),
      berth,
      cargo,
      random.next() < 0.0006 ? oddText(arrived) : minuteText(arrived),
      open ? "" : minuteText(arrived + Math.round(waited * 3600) + alongside),
      minuteText(planned),
      random.next() < 0.0016 ? "" : waited.toFixed(1),
      open ? "" : random.next() < 0.0004 ? "n/a" : clock(alongside),
      String(weight),
      open ? "" : random.next() < 0.001 ? "0" : String(load),
      random.pick(REMARKS),
    ];
    const line = cells.map(cell).join(",");
    yield line;
    if (random.next() < 0.0088) yield line;
  }
}
