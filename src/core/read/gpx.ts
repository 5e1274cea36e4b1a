import { XMLParser, XMLValidator } from "fast-xml-parser";
import { distanceKilometres } from "../formula/functions/geography";
import { type Column, textColumn, valueAt } from "../table/column";
import { isFiner, readIsoDate, readIsoDatetime } from "../table/time-text";
import { type ReadOptions, type ReadResult, tableOfColumns, unreadable } from "./texts";
import { decodeEntities } from "./xml-text";

/** An element as the parser gives it; elements in {@link LISTS} are always lists. */
type Element = { [name: string]: unknown };

const LISTS = new Set(["trk", "trkseg", "trkpt", "rte", "rtept", "wpt"]);

interface Point {
  /** The place of its track in the file: two tracks may have one name. */
  of: number;
  track: string;
  segment: number;
  element: Element;
}

const listOf = (value: unknown): Element[] =>
  Array.isArray(value) ? value.map((item) => (typeof item === "object" && item !== null ? (item as Element) : {})) : [];
const wordsOf = (value: unknown): string | undefined =>
  typeof value === "string" && value.trim() !== "" ? decodeEntities(value.trim()) : undefined;
const numberOf = (value: unknown): number => {
  const text = wordsOf(value);
  return text !== undefined && Number.isFinite(Number(text)) ? Number(text) : Number.NaN;
};

/** The points of a file in their order: of its tracks, else of its routes, else its marked places. */
function pointsOf(gpx: Element, notes: string[]): Point[] {
  const tracks = listOf(gpx.trk);
  const routes = listOf(gpx.rte);
  const marks = listOf(gpx.wpt);
  const named = (element: Element, kind: string, at: number) => wordsOf(element.name) ?? `${kind} ${at + 1}`;
  // Segments of tracks with one name are numbered on, so that name and number together mean one line.
  const numbered = new Map<string, number>();
  const ofTracks = tracks.flatMap((track, of) => {
    const name = named(track, "track", of);
    return listOf(track.trkseg).flatMap((segment) => {
      const number = (numbered.get(name) ?? 0) + 1;
      numbered.set(name, number);
      return listOf(segment.trkpt).map((element) => ({ of, track: name, segment: number, element }));
    });
  });
  const ofRoutes = routes.flatMap((route, of) =>
    listOf(route.rtept).map((element) => ({ of, track: named(route, "route", of), segment: 1, element })),
  );
  // Devices write tracks before they have a point: what is empty stands in nothing's way.
  if (ofTracks.length) {
    if (ofRoutes.length) notes.push(`${routes.length} routes were left out beside the tracks`);
    if (marks.length) notes.push(`${marks.length} marked places were left out beside the tracks`);
    return ofTracks;
  }
  if (ofRoutes.length && marks.length) notes.push(`${marks.length} marked places were left out beside the routes`);
  return ofRoutes.length
    ? ofRoutes
    : marks.map((element, of) => ({ of, track: named(element, "place", of), segment: 1, element }));
}

/** Kilometres from the first point of each track to each of its points; the gap between segments is not travelled. */
function distances(points: readonly Point[], lat: Float64Array, lon: Float64Array): Float64Array {
  const along = new Float64Array(points.length);
  for (let at = 1; at < points.length; at++) {
    const [before, here] = [points[at - 1] as Point, points[at] as Point];
    if (before.of !== here.of) continue;
    const leg =
      before.segment === here.segment
        ? distanceKilometres(lat[at - 1] as number, lon[at - 1] as number, lat[at] as number, lon[at] as number)
        : 0;
    along[at] = (along[at - 1] as number) + (leg === leg ? leg : 0);
  }
  return along;
}

/** The `gpx` element of a file, or what is wrong with it. */
function elementIn(file: string, text: string): { gpx: Element } | { failed: ReadResult } {
  const failed = (message: string) => ({ failed: unreadable(file, "bad-xml", message) });
  const bad = (why: string) => failed(`${file} cannot be read as GPX: ${why}`);
  // The parser itself takes much that is no XML; damage is looked for first, and has a place.
  const valid = XMLValidator.validate(text);
  if (valid !== true) return bad(`line ${valid.err.line}, column ${valid.err.col}: ${valid.err.msg}`);
  const parser = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: "",
    parseTagValue: false,
    parseAttributeValue: false,
    removeNSPrefix: true,
    processEntities: false,
    isArray: (name) => LISTS.has(name),
  });
  let gpx: unknown;
  try {
    gpx = (parser.parse(text) as Element).gpx;
  } catch (fault) {
    return bad(fault instanceof Error ? fault.message : String(fault));
  }
  // An element with nothing in it comes as an empty text.
  if (gpx === "") return { gpx: {} };
  return typeof gpx === "object" && gpx !== null ? { gpx: gpx as Element } : failed(`${file} holds no gpx element`);
}

/** One column for each thing that points say, by name. */
function columnsOf(points: readonly Point[], zoneSeconds: number): [string, Column][] {
  const numbers = (take: (point: Point) => number): Column => ({
    kind: "number",
    values: Float64Array.from(points, take),
  });
  const degrees = (value: unknown, most: number) => {
    const read = numberOf(value);
    return Math.abs(read) <= most ? read : Number.NaN;
  };
  const momentOf = ({ element }: Point) => {
    const moment = wordsOf(element.time) ?? "";
    const read = readIsoDatetime(moment);
    return (read === read ? read : readIsoDate(moment)) + zoneSeconds;
  };
  const lat = Float64Array.from(points, ({ element }) => degrees(element.lat, 90));
  const lon = Float64Array.from(points, ({ element }) => degrees(element.lon, 180));
  const tracks = points.map(({ track }) => track);
  return [
    ["track", textColumn(tracks, points.length)],
    ["segment", numbers(({ segment }) => segment)],
    ["time", { kind: "datetime", values: Float64Array.from(points, momentOf) }],
    ["lat", { kind: "number", values: lat }],
    ["lon", { kind: "number", values: lon }],
    ["elevation", numbers(({ element }) => numberOf(element.ele))],
    ["distance_km", { kind: "number", values: distances(points, lat, lon) }],
  ];
}

/**
 * Reads GPX: one row a point, with its track, the number of its segment, time (UTC), position in
 * degrees, elevation in metres, and kilometres along its track.
 */
export function readGpx(file: string, text: string, options: ReadOptions = {}): ReadResult {
  const notes: string[] = [];
  const found = elementIn(file, text);
  if ("failed" in found) return found.failed;
  options.progress?.(0.6);
  const points = pointsOf(found.gpx, notes);
  if (points.length === 0)
    return unreadable(file, "empty-file", `${file} holds no points: neither tracks, nor routes, nor marked places`);
  if (points.some(({ element }) => isFiner(wordsOf(element.time) ?? "")))
    notes.push("times finer than milliseconds are cut down to them");
  const columns = columnsOf(points, options.zone?.seconds ?? 0);
  const result = tableOfColumns(file, columns, points.length, notes, options, (own, row) => {
    const value = valueAt(own, row);
    return value === null ? null : String(value);
  });
  const info = new Map([
    ["time", { unit: options.zone?.name ?? "UTC" }],
    ["elevation", { unit: "m" }],
    ["distance_km", { label: "Distance along", unit: "km", format: ".2f" }],
  ]);
  return { ...result, table: { ...result.table, info } };
}
