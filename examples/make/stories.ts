/** The tables of the small reports: each its own made-up setting, the same from the same seed. */
import { Random } from "./random";

const two = (value: number) => String(value).padStart(2, "0");
const DAY = 86_400_000;
const dayText = (start: number, days: number) => new Date(start + days * DAY).toISOString().slice(0, 10);

const STATIONS = [
  ["Cairn Top", 2.1],
  ["Fold Wood", 7.4],
  ["Mill Lade", 9.2],
  ["Low Meadow", 10.3],
] as const;

/** Two years of days at four stations of a hillside weather network: temperature, wind and rain. */
export function weatherLines(): string[] {
  const random = new Random(71);
  const lines = ["day,station,mean_c,wind_ms,rain_mm"];
  for (let day = 0; day < 730; day++) {
    const season = -9 * Math.cos(((day + 20) / 365.25) * 2 * Math.PI);
    const front = random.normal() * 2.4;
    for (const [station, base] of STATIONS) {
      const mean = base + season + front + random.normal() * 0.7;
      const wind = Math.max(0.4, 4 + (station === "Cairn Top" ? 5 : 0) - front * 0.5 + random.normal() * 1.6);
      const rain = random.next() < 0.45 ? 0 : -Math.log(1 - random.next()) * (front > 0 ? 7 : 3.5);
      const missing = random.next() < 0.01;
      lines.push(
        [
          dayText(Date.UTC(2024, 0, 1), day),
          station,
          missing ? "" : mean.toFixed(1),
          wind.toFixed(1),
          rain.toFixed(1),
        ].join(","),
      );
    }
  }
  return lines;
}

const BAKES = ["rye loaf", "seed roll", "plum tart", "cheese straw", "oat biscuit"] as const;

/** A bakery's sheets: what was baked and what was left at closing, by shop and day. */
export function wasteLines(): string[] {
  const random = new Random(72);
  const lines = ["sheet,day,shop,product,baked,left_over,remark"];
  let sheet = 400;
  for (let day = 0; day < 90; day++)
    for (const shop of ["Bridge End", "Station Row"])
      for (const [at, product] of BAKES.entries()) {
        const baked = 20 + at * 8 + random.whole(0, 30);
        const rainy = random.next() < 0.12;
        const left = Math.min(baked, Math.round(baked * (0.04 + random.next() ** 3 * 0.4 + (rainy ? 0.2 : 0))));
        lines.push(
          [sheet++, dayText(Date.UTC(2025, 2, 1), day), shop, product, baked, left, rainy ? "heavy rain" : ""].join(
            ",",
          ),
        );
      }
  return lines;
}

const BRANCHES = ["Canal Street", "Harrow Hill", "Old Tannery", "Priory", "Thorn Lane", "Weavers' Hall"];

/** Loans of a town's libraries, one row each. */
export function loanLines(): string[] {
  const random = new Random(73);
  const lines = ["loan,day,branch,shelf,days_out"];
  for (let loan = 1; loan <= 3000; loan++) {
    const branch = random.weighted(BRANCHES.map((name, at) => [name, 6 - at] as const));
    const shelf = random.weighted([
      ["fiction", 5],
      ["travel", 2],
      ["science", 2],
      ["children", 4],
    ] as const);
    const out = Math.round(3 + random.next() ** 2 * 40);
    lines.push([loan, dayText(Date.UTC(2025, 0, 1), random.whole(0, 364)), branch, shelf, out].join(","));
  }
  return lines;
}

const VALLEYS = [
  ["Aldburn", 55.3, -2.9],
  ["Birkdale", 55.1, -2.3],
  ["Coldwater", 54.8, -2.7],
  ["Dunmoor", 54.6, -2.1],
] as const;

/** Orchards of four valleys with their place, trees, yield and age. */
export function orchardLines(): string[] {
  const random = new Random(74);
  const lines = ["orchard,valley,lat,lon,trees,yield_kg,height_m,planted"];
  const ends = ["Croft", "Bank", "Rigg", "Garth", "Holm", "Side", "Acre", "Field"];
  for (const [valley, lat, lon] of VALLEYS)
    for (const end of ends)
      for (const side of ["East", "West"]) {
        const trees = random.whole(40, 600);
        lines.push(
          [
            `${side} ${end} of ${valley}`,
            valley,
            (lat + random.normal() * 0.05).toFixed(4),
            (lon + random.normal() * 0.08).toFixed(4),
            trees,
            Math.round(trees * random.between(18, 44)),
            random.whole(40, 310),
            random.whole(1931, 2016),
          ].join(","),
        );
      }
  return lines;
}

/** Passengers of four ferry lines, month by month. */
export function ferryLines(): string[] {
  const random = new Random(75);
  const lines = ["month,line,passengers"];
  const means = { "Long Reach": 21_000, "Kelp Point": 5200, "Inner Isles": 3100, Seal: 900 };
  for (let month = 0; month < 48; month++)
    for (const [line, mean] of Object.entries(means)) {
      const summer = 1 - 0.45 * Math.cos((month / 12) * 2 * Math.PI);
      const day = `${2022 + Math.floor(month / 12)}-${two((month % 12) + 1)}-01`;
      lines.push([day, line, Math.round(mean * summer * random.between(0.92, 1.08))].join(","));
    }
  return lines;
}

/** A day's walk over a ridge as GPX: a point every half minute. */
export function walkGpx(): string {
  const random = new Random(76);
  const points: string[] = [];
  const start = Date.UTC(2025, 5, 21, 7, 40) / 1000;
  for (let at = 0; at < 720; at++) {
    const part = at / 720;
    const lat = 54.62 + 0.06 * Math.sin(part * 2.6) + Math.sin(part * 31) * 0.0012;
    const lon = -3.12 + 0.11 * part + Math.cos(part * 23) * 0.0015;
    const height = 140 + 520 * Math.sin(part * Math.PI) ** 1.4 + 60 * Math.sin(part * 19) + random.normal() * 1.5;
    const time = new Date((start + at * 30) * 1000).toISOString().replace(".000", "");
    points.push(
      `<trkpt lat="${lat.toFixed(6)}" lon="${lon.toFixed(6)}"><ele>${height.toFixed(1)}</ele><time>${time}</time></trkpt>`,
    );
  }
  return `<?xml version="1.0" encoding="UTF-8"?>\n<gpx version="1.1" creator="made up"><trk><name>Ridge</name><trkseg>\n${points.join("\n")}\n</trkseg></trk></gpx>\n`;
}

/** Courses of an evening school: subject, teacher, weekday, fee, hours and places left. */
export function courseLines(): string[] {
  const random = new Random(77);
  const subjects = [
    "bookbinding",
    "bread",
    "choir",
    "drawing",
    "joinery",
    "navigation",
    "pottery",
    "Spanish",
    "weaving",
  ];
  const firsts = ["Ada", "Bram", "Cleo", "Dov", "Edda", "Finn", "Greta"];
  const lasts = ["Arden", "Bell", "Carrow", "Dene"];
  const days = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday"];
  const lines = ["course,subject,teacher,weekday,fee,hours,places_left,begins"];
  for (let course = 1; course <= 420; course++) {
    const hours = random.whole(6, 48);
    const begins = dayText(Date.UTC(2026, 0, 5), random.whole(0, 180));
    const teacher = `${random.pick(firsts)} ${random.pick(lasts)}`;
    const fee = Math.round(hours * random.between(6, 15));
    lines.push(
      [course, random.pick(subjects), teacher, random.pick(days), fee, hours, random.whole(0, 14), begins].join(","),
    );
  }
  return lines;
}

/** Lamps of a catalogue: light, power, price, life and weight, with what is not known left out. */
export function lampLines(): string[] {
  const random = new Random(78);
  const lines = ["lamp,shape,lumens,watts,price,life_h,weight_g"];
  const shapes = ["bulb", "candle", "globe", "reflector", "tube"];
  for (let lamp = 0; lamp < 260; lamp++) {
    const watts = Math.round(random.between(2, 24) * 10) / 10;
    const lumens = Math.round(watts * random.between(70, 130));
    const price = (2 + watts * random.between(0.3, 1.1)).toFixed(2);
    const life = random.next() < 0.06 ? "" : random.whole(8, 50) * 1000;
    const name = `${"ABCDEFGHJK"[lamp % 10]}${100 + lamp}`;
    lines.push([name, random.pick(shapes), lumens, watts, price, life, random.whole(25, 240)].join(","));
  }
  return lines;
}

/** Firings of a pottery's kiln: hours, peak temperature, gas used and cracked pieces. */
export function firingLines(): string[] {
  const random = new Random(79);
  const lines = ["firing,glaze,hours,peak_c,gas_m3,cracked"];
  for (let firing = 1; firing <= 600; firing++) {
    const glaze = random.weighted([
      ["ash", 3],
      ["tenmoku", 2],
      ["celadon", 2],
    ] as const);
    const hours = Math.max(4, 9 + random.normal() * 1.9 + (glaze === "celadon" ? 2.5 : 0));
    const peak = 1180 + (glaze === "ash" ? 40 : 0) + random.normal() * 14;
    const gas = 6 + hours * 2.1 + Math.sin(hours) * 2.5 + random.normal() * 1.6;
    lines.push([firing, glaze, hours.toFixed(2), peak.toFixed(0), gas.toFixed(1), random.whole(0, 9)].join(","));
  }
  return lines;
}

/** Rounds of a parcel bicycle: where each began and ended. */
export function roundLines(): string[] {
  const random = new Random(80);
  const lines = ["round,rider,parcels,minutes,start_lat,start_lon,end_lat,end_lon"];
  for (let round = 1; round <= 120; round++) {
    const place = () => [53.96 + random.normal() * 0.015, -1.08 + random.normal() * 0.025];
    const [ends, starts] = [place(), place()];
    const rider = random.pick(["Isla", "Joss", "Kit", "Lene"]);
    const places = [...starts, ...ends].map((value) => (value as number).toFixed(5));
    lines.push([round, rider, random.whole(6, 44), random.whole(18, 95), ...places].join(","));
  }
  return lines;
}
