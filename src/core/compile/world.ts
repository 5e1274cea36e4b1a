import { feature } from "topojson-client";
import type { GeometryCollection, Topology } from "topojson-specification";
import { evaluate, frameOf } from "../formula/evaluate";
import { columnOf } from "../formula/vector";
import { WORLD } from "../plan/shown-table";
import type { Query } from "../query/query";
import { textColumn } from "../table/column";
import { extentOf } from "../table/extent";
import { makeTable } from "../table/table";
import { type BuiltTable, type Compiling, settingValue } from "./compiling";
import { LAND_OUTLINES } from "./land-outlines";

/** What is seen of the world, in degrees: west, south, east, north. */
export type Bounds = readonly [number, number, number, number];

type Place = [number, number];
type Land = Topology<{ land: GeometryCollection }>;

/** Degrees across up to which the finer outlines are taken. */
const FINE = 60;
/** How many times as wide as what is shown the land around it goes: plots are wide, and readers look beside. */
const AROUND = 2.5;

/** The bounds of all places in the channels of some layers; nothing where they have none. */
export function boundsOf(compiling: Compiling, queries: readonly Query[]): Bounds | undefined {
  const ends = (names: readonly string[]) =>
    queries.flatMap(({ channels, from }) =>
      names.flatMap((name) => {
        const table = compiling.tables.get(from)?.table;
        const formula = channels[name]?.formula;
        if (!table || !formula) return [];
        const column = columnOf(evaluate(formula, frameOf(table, settingValue(compiling))), table.rowCount);
        return column.kind === "text" ? [] : (extentOf(column.values) ?? []);
      }),
    );
  const [lon, lat] = [ends(["lon", "lon_to"]), ends(["lat", "lat_to"])];
  if (lon.length === 0 || lat.length === 0) return undefined;
  return [Math.min(...lon), Math.min(...lat), Math.max(...lon), Math.max(...lat)];
}

/** What is shown with the land around it, in whole degrees; a degree of longitude is short far north. */
function around([west, south, east, north]: Bounds): Bounds {
  const short = Math.cos((Math.min(80, Math.max(Math.abs(south), Math.abs(north))) * Math.PI) / 180);
  const room = AROUND * Math.max(1, east - west, (north - south) / short);
  return [Math.floor(west - room), Math.floor(south - room), Math.ceil(east + room), Math.ceil(north + room)];
}

const read = new Map<keyof typeof LAND_OUTLINES, Land>();

/** The outlines of land, read when they are asked for first. */
function landOf(fineness: keyof typeof LAND_OUTLINES): Land {
  const land = read.get(fineness) ?? (JSON.parse(LAND_OUTLINES[fineness]) as Land);
  read.set(fineness, land);
  return land;
}

/** Tables of outlines from one compile to the next: cutting them takes longer than a keystroke may. */
const made = new Map<string, BuiltTable>();
const MOST_KEPT = 8;

/** The outlines of land as a table with a column of places, made when the first map asks for it. */
export function worldTable(compiling: Compiling, shown: Bounds | undefined): BuiltTable {
  const seen = shown && Math.max(shown[2] - shown[0], shown[3] - shown[1]) <= FINE ? around(shown) : undefined;
  const name = seen ? `${WORLD} ${seen.join(" ")}` : WORLD;
  const known = compiling.tables.get(name) ?? made.get(name);
  if (known) {
    compiling.tables.set(name, known);
    return known;
  }
  const topology = landOf(seen ? "fine" : "coarse");
  const { features } = feature(topology, topology.objects.land);
  const rings = features.flatMap(({ geometry }) => polygonsOf(geometry as GeoJSON.Polygon | GeoJSON.MultiPolygon));
  const kept = seen
    ? rings.flatMap((polygon) => cutPolygon(polygon, seen))
    : rings.map((polygon) => polygon.map(rounded));
  const places = kept.map((coordinates) => JSON.stringify({ type: "Polygon", coordinates }));
  const table = makeTable(places.length, [["place", { ...textColumn(places, places.length), place: true }]]);
  const built: BuiltTable = {
    name,
    spec: {},
    table,
    steps: [],
    ledger: [],
    usesSettings: false,
    wishes: new Map(),
    ties: new Map(),
  };
  compiling.tables.set(name, built);
  if (made.size >= MOST_KEPT) made.delete(made.keys().next().value as string);
  made.set(name, built);
  return built;
}

const polygonsOf = (geometry: GeoJSON.Polygon | GeoJSON.MultiPolygon): Place[][][] =>
  (geometry.type === "Polygon" ? [geometry.coordinates] : geometry.coordinates) as Place[][][];

/** Square degrees under which nothing is left of a ring but the edge at which it was cut. */
const LEAST_AREA = 1e-3;

/** The area within a ring in square degrees, positive where it goes round against the clock. */
function signedArea(ring: readonly Place[]): number {
  let twice = 0;
  ring.forEach(([x, y], at) => {
    const [x2, y2] = ring[(at + 1) % ring.length] as Place;
    twice += x * y2 - x2 * y;
  });
  return twice / 2;
}

/** A polygon within bounds; nothing where it lies outside of them. Its holes are cut like its edge. */
function cutPolygon(polygon: Place[][], bounds: Bounds): Place[][][] {
  const cut = polygon.map((ring) => rounded(cutRing(ring, bounds)));
  const [edge, ...holes] = cut.map((ring) => (Math.abs(signedArea(ring)) > LEAST_AREA ? ring : []));
  if (!edge?.length) return [];
  // On a sphere a ring has two insides: the edge goes with the clock, a hole against it.
  const turned = (ring: Place[], way: 1 | -1) => (Math.sign(signedArea(ring)) === way ? ring : [...ring].reverse());
  return [[turned(edge, -1), ...holes.filter((ring) => ring.length).map((ring) => turned(ring, 1))]];
}

/** A ring cut at each side in turn (I. Sutherland, G. Hodgman, "Reentrant Polygon Clipping", 1974). */
function cutRing(ring: Place[], [west, south, east, north]: Bounds): Place[] {
  const sides: [axis: 0 | 1, at: number, keepsAbove: boolean][] = [
    [0, west, true],
    [0, east, false],
    [1, south, true],
    [1, north, false],
  ];
  const open = sides.reduce((kept, side) => cutAt(kept, ...side), ring.slice(0, -1));
  return open.length ? [...open, open[0] as Place] : [];
}

function cutAt(ring: Place[], axis: 0 | 1, at: number, keepsAbove: boolean): Place[] {
  const isIn = (place: Place) => (keepsAbove ? place[axis] >= at : place[axis] <= at);
  return ring.flatMap((here, place): Place[] => {
    const before = ring[(place + ring.length - 1) % ring.length] as Place;
    const part = (at - before[axis]) / (here[axis] - before[axis]);
    const edge = before.map((value, i) => value + ((here[i] as number) - value) * part) as Place;
    if (isIn(here)) return isIn(before) ? [here] : [edge, here];
    return isIn(before) ? [edge] : [];
  });
}

/** Degrees to two decimals, about a kilometre: finer than these outlines are. Places that fall together stand once. */
function rounded(ring: Place[]): Place[] {
  const places = ring.map((place) => place.map((value) => Math.round(value * 100) / 100) as Place);
  return places.filter((place, at) => at === 0 || place.join() !== places[at - 1]?.join());
}
