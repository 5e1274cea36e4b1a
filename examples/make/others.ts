import { BERTHS } from "./calls";
import { Random } from "./random";

const two = (value: number) => String(value).padStart(2, "0");

export function berthLines(): string[] {
  return [
    "code,berth,lat,lon,depth_m",
    ...BERTHS.map(({ code, berth, lat, lon, depth }) => [code, berth, lat, lon, depth].join(",")),
  ];
}

/** Hourly height of the tide over one year, in metres, from four made-up constituents. */
export function tideLines(): string[] {
  const random = new Random(11);
  const lines = ["time,height_m"];
  const start = Date.UTC(2025, 0, 1) / 1000;
  for (let hour = 0; hour < 365 * 24; hour++) {
    const height =
      4.6 +
      2.7 * Math.cos((2 * Math.PI * hour) / 12.42) +
      0.9 * Math.cos((2 * Math.PI * hour) / 12 + 1) +
      0.3 * Math.cos((2 * Math.PI * hour) / 25.82 + 2) +
      random.normal() * 0.06;
    const date = new Date((start + hour * 3600) * 1000).toISOString();
    lines.push(`${date.slice(0, 10)} ${date.slice(11, 16)},${random.next() < 0.002 ? "" : height.toFixed(2)}`);
  }
  return lines;
}

/** A survey launch's track as GPX: two runs over the sound with depth as elevation. */
export function surveyGpx(): string {
  const random = new Random(23);
  const point = (lat: number, lon: number, depth: number, seconds: number) =>
    `<trkpt lat="${lat.toFixed(6)}" lon="${lon.toFixed(6)}"><ele>${(-depth).toFixed(2)}</ele><time>${new Date(seconds * 1000).toISOString().replace(".000", "")}</time></trkpt>`;
  const run = (from: number, startSeconds: number) => {
    const points: string[] = [];
    for (let i = 0; i < 900; i++) {
      const along = i / 900;
      const lat = 54.195 + from + along * 0.03 + Math.sin(along * 9) * 0.001;
      const lon = -3.47 + along * 0.05 + Math.cos(along * 7) * 0.0012;
      points.push(
        point(
          lat,
          lon,
          4 + 9 * Math.sin(along * Math.PI) + random.normal() * 0.25,
          startSeconds + i * 4 + (i > 450 ? 60 : 0),
        ),
      );
    }
    return `<trkseg>\n${points.join("\n")}\n</trkseg>`;
  };
  const start = Date.UTC(2025, 4, 14, 6, 30) / 1000;
  return `<?xml version="1.0" encoding="UTF-8"?>\n<gpx version="1.1" creator="made up"><trk><name>Launch survey</name>\n${run(0, start)}\n${run(0.004, start + 5400)}\n</trk></gpx>\n`;
}

/** Tonnes a month as offices send them: one row a cargo, one column a month. */
export function throughputLines(): string[] {
  const random = new Random(31);
  const months = Array.from({ length: 36 }, (_, i) => `${2023 + Math.floor(i / 12)}-${two((i % 12) + 1)}`);
  const rows = ["grain", "fuel", "timber", "salt", "containers", "stone"].map((cargo, at) => {
    const base = [520, 610, 380, 210, 240, 35][at] as number;
    return [
      cargo,
      ...months.map((_, i) =>
        random.next() < 0.01
          ? "-"
          : String(Math.round(base * (1 + 0.2 * Math.sin(i / 2)) * random.between(0.85, 1.15) * 100)),
      ),
    ].join(",");
  });
  return [["cargo", ...months].join(","), ...rows];
}

/** A made-up coastline with one island. */
export function coastGeoJson(): string {
  const random = new Random(41);
  const shore = Array.from({ length: 120 }, (_, i) =>
    [-3.5 + i * 0.001, 54.2 + 0.012 * Math.sin(i / 9) + random.normal() * 0.0006].map((value) =>
      Number(value.toFixed(6)),
    ),
  );
  const island = Array.from({ length: 24 }, (_, i) =>
    [-3.43 + 0.004 * Math.cos((i / 24) * 2 * Math.PI), 54.222 + 0.002 * Math.sin((i / 24) * 2 * Math.PI)].map((value) =>
      Number(value.toFixed(6)),
    ),
  );
  const land = [...shore, [-3.38, 54.16], [-3.5, 54.16], shore[0]];
  const feature = (name: string, ring: unknown[]) => ({
    type: "Feature",
    properties: { name },
    geometry: { type: "Polygon", coordinates: [ring] },
  });
  return `${JSON.stringify({ type: "FeatureCollection", features: [feature("Merrow shore", land), feature("Tern Holm", [...island, island[0]])] })}\n`;
}
