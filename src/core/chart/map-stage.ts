import {
  type GeoPermissibleObjects,
  type GeoProjection,
  geoAlbers,
  geoArea,
  geoDistance,
  geoEqualEarth,
  geoMercator,
  geoOrthographic,
  geoPath,
} from "d3-geo";
import { writeCount } from "../formula/format";
import { markDraw } from "../mark/draws";
import { BEHIND, type MapProjector } from "../mark/mark";
import type { Box, SceneLine, SceneText } from "../scene/scene";
import type { Ring } from "../scene/shapes/outlines";
import type { ChartInput } from "./inputs";
import type { MapPlan } from "./plan";

/** How a map is projected; a globe shows half of the earth, is turned instead of moved, and has an edge. */
const PROJECTIONS: Readonly<Record<MapPlan["projection"], { make: () => GeoProjection; isGlobe?: true }>> = {
  mercator: { make: geoMercator },
  equal_earth: { make: geoEqualEarth },
  albers: { make: geoAlbers },
  orthographic: { make: geoOrthographic, isGlobe: true },
};

/** The geometry of which a projection draws the edge. */
const WHOLE_EARTH = '{"type":"Sphere"}';

const EARTH_KM = 6371.0088;

type Geometry = GeoJSON.Geometry;

/**
 * Polygons as the sphere is read here: what lies to the right of a ring is inside. Files mostly have it the
 * other way round.
 */
function wound(geometry: Geometry): Geometry {
  if (geometry.type === "Polygon") return geoArea(geometry) > 2 * Math.PI ? reversed(geometry) : geometry;
  if (geometry.type === "MultiPolygon")
    return {
      type: "MultiPolygon",
      coordinates: geometry.coordinates.map(
        (coordinates) => (wound({ type: "Polygon", coordinates }) as GeoJSON.Polygon).coordinates,
      ),
    };
  if (geometry.type === "GeometryCollection") return { ...geometry, geometries: geometry.geometries.map(wound) };
  return geometry;
}

const reversed = (polygon: GeoJSON.Polygon): GeoJSON.Polygon => ({
  ...polygon,
  coordinates: polygon.coordinates.map((ring) => [...ring].reverse()),
});

const parsed = new Map<string, Geometry | null>();

/** The geometry of a place, read once for each text. */
export function geometryOf(text: string): Geometry | null {
  let geometry = parsed.get(text);
  if (geometry === undefined) {
    try {
      geometry = wound(JSON.parse(text) as Geometry);
    } catch {
      // Places were checked when their file was read; what a formula has made of one may be no place.
      geometry = null;
    }
    parsed.set(text, geometry);
  }
  return geometry;
}

/** The corners and edges of what a map must show, as points. */
function shownPoints({ layers }: ChartInput): GeoPermissibleObjects {
  const coordinates: [number, number][] = [];
  const features: Geometry[] = [];
  for (const { all, controls } of layers) {
    const { keys } = all.prepared;
    const counts = controls.prepared === all.prepared ? controls.counts : all.counts;
    for (const end of ["", "_to"]) {
      const [lon, lat] = [keys.get(`lon${end}`), keys.get(`lat${end}`)];
      if (lon && lat && lon.kind !== "text" && lat.kind !== "text")
        coordinates.push(...extentPoints(lon.values, lat.values, counts));
    }
    const place = keys.get("place");
    if (place?.kind === "text") {
      const used = new Set<number>();
      place.codes.forEach((code, id) => {
        if (code >= 0 && (counts[id] as number) > 0) used.add(code);
      });
      for (const code of used) {
        const geometry = geometryOf(place.dictionary[code] as string);
        if (geometry) features.push(geometry);
      }
    }
  }
  const points: Geometry = {
    type: "MultiPoint",
    coordinates:
      coordinates.length || features.length
        ? coordinates
        : [
            [-170, -60],
            [170, 75],
          ],
  };
  return {
    type: "GeometryCollection",
    geometries: coordinates.length ? [points, ...features] : features.length ? features : [points],
  };
}

/** The corners of the box around some places, and the middles of its edges. */
function extentPoints(lon: Float64Array, lat: Float64Array, counts: ArrayLike<number>): [number, number][] {
  let [west, east, south, north] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let id = 0; id < lon.length; id++) {
    const [x, y] = [lon[id] as number, lat[id] as number];
    if (!counts[id] || x !== x || y !== y) continue;
    west = Math.min(west, x);
    east = Math.max(east, x);
    south = Math.min(south, y);
    north = Math.max(north, y);
  }
  if (!(west <= east)) return [];
  const room = Math.max(0.002, (east - west) * 0.02, (north - south) * 0.02);
  const [w, e] = [west - room, east + room];
  const [s, n] = [Math.max(-85, south - room), Math.min(85, north + room)];
  const [x, y] = [(w + e) / 2, (s + n) / 2];
  return [
    [w, s],
    [e, s],
    [w, n],
    [e, n],
    [x, s],
    [x, n],
    [w, y],
    [e, y],
  ];
}

/** Turns a globe or a conic map so that what is shown lies in its middle. */
function turned(projection: GeoProjection, kind: MapPlan["projection"], shown: GeoPermissibleObjects): GeoProjection {
  if (kind !== "orthographic" && kind !== "albers") return projection;
  const points = shown as GeoJSON.GeometryCollection;
  const box = geoPath(
    geoEqualEarth().fitExtent(
      [
        [0, 0],
        [1000, 500],
      ],
      points,
    ),
  ).centroid(points);
  const middle = geoEqualEarth()
    .fitExtent(
      [
        [0, 0],
        [1000, 500],
      ],
      points,
    )
    .invert?.(box) ?? [0, 0];
  if (kind === "orthographic") return projection.rotate([-middle[0], -middle[1]]);
  const conic = geoAlbers().rotate([-middle[0], 0]).center([0, middle[1]]);
  return conic.parallels([middle[1] - 8, middle[1] + 8]);
}

/** Collects what a geometry becomes on the plane: closed lines and open ones. */
function collector() {
  const rings: Ring[] = [];
  const lines: Ring[] = [];
  let now: number[] = [];
  const open = () => {
    if (now.length > 2) lines.push(Float64Array.from(now));
    now = [];
  };
  return {
    rings,
    lines,
    done: open,
    context: {
      beginPath: open,
      moveTo(x: number, y: number) {
        open();
        now = [x, y];
      },
      lineTo(x: number, y: number) {
        now.push(x, y);
      },
      arc() {
        // Points are marks of their own.
      },
      closePath() {
        if (now.length > 4) rings.push(Float64Array.from(now));
        now = [];
      },
    },
  };
}

/** What marks at the edge of a map reach over their places, in pixels. */
const edgeRoom = ({ layers }: ChartInput): number =>
  Math.max(4, ...layers.map(({ plan }) => markDraw(plan.draw).discs?.reach ?? 0));

/** True for a globe that cannot show all at once: it is seen whole then. */
function isHalved(projection: GeoProjection, shown: GeoPermissibleObjects): boolean {
  const isBehind = behind(projection);
  return (shown as GeoJSON.GeometryCollection).geometries.some(
    (geometry) =>
      geometry.type === "MultiPoint" &&
      geometry.coordinates.some(([lon, lat]) => isBehind(lon as number, lat as number)),
  );
}

/** Tells which places lie on the far side of a globe. */
function behind(projection: GeoProjection): (lon: number, lat: number) => boolean {
  const [lambda, phi] = projection.rotate();
  return (lon, lat) => geoDistance([lon, lat], [-lambda, -phi]) > Math.PI / 2;
}

/** Shows a part of a map larger: a globe is turned to it, every other map moved. */
function lookedAt(projection: GeoProjection, view: NonNullable<ChartInput["view"]>, isGlobe: boolean, plot: Box) {
  const [cx, cy] = [plot.x + plot.width / 2, plot.y + plot.height / 2];
  projection.scale(projection.scale() * view.scale);
  if (isGlobe) {
    projection.rotate([-view.lon, -view.lat]).translate([cx, cy]);
    return;
  }
  const [x, y] = projection.translate();
  const at = projection([view.lon, view.lat]) ?? [cx, cy];
  projection.translate([cx + x - at[0], cy + y - at[1]]);
}

/** The map of a chart in its plot: how places become pixels, and pixels places. */
export function mapStage(input: ChartInput, plot: Box): MapProjector {
  const kind = input.plan.map?.projection ?? "mercator";
  const shown = shownPoints(input);
  const { make, isGlobe = false } = PROJECTIONS[kind];
  const projection = turned(make(), kind, shown);
  const room = edgeRoom(input);
  projection.fitExtent(
    [
      [plot.x + room, plot.y + room],
      [plot.x + plot.width - room, plot.y + plot.height - room],
    ],
    isGlobe && isHalved(projection, shown) ? { type: "Sphere" } : shown,
  );
  if (input.view) lookedAt(projection, input.view, isGlobe, plot);
  projection.clipExtent([
    [plot.x - 40, plot.y - 40],
    [plot.x + plot.width + 40, plot.y + plot.height + 40],
  ]);
  const cache = new Map<string, { rings: Ring[]; lines: Ring[] }>();
  const drawn = (text: string) => {
    let known = cache.get(text);
    if (!known) {
      const into = collector();
      const geometry = geometryOf(text);
      if (geometry) geoPath(projection, into.context as unknown as CanvasRenderingContext2D)(geometry);
      into.done();
      known = into;
      cache.set(text, known);
    }
    return known;
  };
  const place = (lon: number, lat: number) => projection([lon, lat]) ?? [Number.NaN, Number.NaN];
  const isBehind = behind(projection);
  return {
    point: isGlobe ? (lon, lat) => (isBehind(lon, lat) ? [BEHIND, BEHIND] : place(lon, lat)) : place,
    invert: (x, y) => projection.invert?.([x, y]) ?? [Number.NaN, Number.NaN],
    rings: (text) => drawn(text).rings,
    lines: (text) => drawn(text).lines,
    edge: isGlobe ? drawn(WHOLE_EARTH).rings : [],
  };
}

/** Lengths that a scale bar may have, times powers of ten. */
const ROUND = [1, 2, 5];

/**
 * A bar of a round length in km, at most a quarter of the plot, at its lower left: as lengths are there or, where
 * the earth does not reach so far, in the middle.
 */
export function scaleBar(project: MapProjector, plot: Box): { line: SceneLine; text: SceneText } | undefined {
  const y = plot.y + plot.height - 14;
  const width = plot.width / 4;
  const placeAt = (x: number, y: number): [number, number] | undefined => {
    const place = project.invert(x, y);
    // Beside the earth a projection finds places too, which lie elsewhere.
    const [px, py] = project.point(...place);
    return Math.hypot(px - x, py - y) < 1 ? place : undefined;
  };
  const reach = (x: number, y: number) => {
    const [from, to] = [placeAt(x, y), placeAt(x + width, y)];
    return from && to ? geoDistance(from, to) * EARTH_KM : 0;
  };
  const most = reach(plot.x + 10, y) || reach(plot.x + 1.5 * width, plot.y + plot.height / 2);
  if (!(most > 0)) return undefined;
  const power = 10 ** Math.floor(Math.log10(most));
  const length = (ROUND.filter((one) => one * power <= most).at(-1) ?? 1) * power;
  const pixels = width * (length / most);
  const line: SceneLine = { x1: plot.x + 10, y1: y, x2: plot.x + 10 + pixels, y2: y, paint: "ink" };
  const text: SceneText = {
    x: plot.x + 10,
    y: y - 5,
    text: length >= 1 ? `${writeCount(length)} km` : `${Math.round(length * 1000)} m`,
    size: 11,
    paint: "ink",
  };
  return { line, text };
}
