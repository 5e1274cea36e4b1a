import type { Finding } from "../finding/finding";
import { placeOf } from "../finding/place";
import { type Column, textColumn } from "../table/column";
import { makeTable } from "../table/table";
import { flattened, isMap, type Json, type JsonMap } from "./flatten";
import { withExactIntegers } from "./json-numbers";
import { jsonProblemAt } from "./json-place";
import { headNames, type ReadOptions, type ReadResult, tableOfTexts, unreadable } from "./texts";

const GEOMETRIES = new Set([
  "Point",
  "MultiPoint",
  "LineString",
  "MultiLineString",
  "Polygon",
  "MultiPolygon",
  "GeometryCollection",
]);

const isPosition = (value: Json | undefined): boolean =>
  Array.isArray(value) &&
  value.length >= 2 &&
  value.slice(0, 2).every((part) => typeof part === "number" && Number.isFinite(part));

/** True for lists of positions so many levels deep. */
function isNested(value: Json | undefined, depth: number): boolean {
  return depth === 0 ? isPosition(value) : Array.isArray(value) && value.every((part) => isNested(part, depth - 1));
}

const DEPTHS: Record<string, number> = {
  Point: 0,
  MultiPoint: 1,
  LineString: 1,
  MultiLineString: 2,
  Polygon: 2,
  MultiPolygon: 3,
};

/** True for a geometry by RFC 7946; collections within collections are followed a few times. */
export function isGeometry(value: Json | undefined, depth = 0): value is JsonMap {
  if (!isMap(value) || typeof value.type !== "string" || !GEOMETRIES.has(value.type)) return false;
  if (value.type === "GeometryCollection")
    return (
      depth < 8 && Array.isArray(value.geometries) && value.geometries.every((part) => isGeometry(part, depth + 1))
    );
  return isNested(value.coordinates, DEPTHS[value.type] as number);
}

/** Only what a geometry needs: no bounding boxes, no members of other makers. */
function bare(geometry: JsonMap): JsonMap {
  if (geometry.type === "GeometryCollection")
    return { type: geometry.type, geometries: (geometry.geometries as JsonMap[]).map(bare) };
  return { type: geometry.type as string, coordinates: geometry.coordinates as Json };
}

function featuresOf(whole: Json): JsonMap[] | undefined {
  if (!isMap(whole)) return undefined;
  if (whole.type === "FeatureCollection" && Array.isArray(whole.features)) return whole.features.filter(isMap);
  if (whole.type === "Feature") return [whole];
  return isGeometry(whole) ? [{ type: "Feature", properties: {}, geometry: whole }] : undefined;
}

/**
 * What is said of each feature. Where its own id stands beside a property `id` that is another, it is called
 * `feature_id`.
 */
function propertiesOf(features: readonly JsonMap[]): JsonMap[] {
  const own = features.map(({ properties }) => (isMap(properties) ? properties : {}));
  const hasId = (map: JsonMap) => Object.hasOwn(map, "id");
  const differ = features.some(
    ({ id }, at) => id !== undefined && hasId(own[at] as JsonMap) && String((own[at] as JsonMap).id) !== String(id),
  );
  return features.map(({ id }, at) => ({
    ...(id === undefined || isMap(id) ? {} : { [differ ? "feature_id" : "id"]: id }),
    ...own[at],
  }));
}

/** Reads GeoJSON: one row a feature, its properties as columns, its geometry in the column `place`. */
export function readGeoJson(file: string, text: string, options: ReadOptions = {}): ReadResult {
  const notes: string[] = [];
  const findings: Finding[] = [];
  const clean = text.replace(/^\ufeff/, "");
  let whole: Json;
  try {
    whole = JSON.parse(withExactIntegers(clean)) as Json;
  } catch {
    const { line, column } = placeOf(clean, jsonProblemAt(clean));
    return unreadable(
      file,
      "bad-json",
      `${file} cannot be read as GeoJSON: line ${line}, column ${column} does not fit what stands before it`,
    );
  }
  const features = featuresOf(whole);
  if (!features)
    return unreadable(
      file,
      "json-shape",
      `${file} holds no GeoJSON: a FeatureCollection, a Feature or a geometry is expected`,
    );
  if (features.length === 0) return unreadable(file, "empty-file", `${file} holds no features`);
  let [none, broken] = [0, 0];
  const places = features.map(({ geometry }) => {
    if (isGeometry(geometry)) return JSON.stringify(bare(geometry));
    if (geometry === null || geometry === undefined) none += 1;
    else broken += 1;
    return null;
  });
  if (none) notes.push(`${none} features have no geometry`);
  if (broken) notes.push(`${broken} geometries are none by the standard; their place is missing`);
  const properties = propertiesOf(features);
  const columns = flattened(properties, notes, options);
  const names = headNames([...columns.keys()], notes);
  const result = tableOfTexts(file, names, [...columns.values()], features.length, notes, findings, options);
  const name = headNames([...names, "place"], []).at(-1) as string;
  const place: Column = { ...textColumn(places, places.length), place: true };
  result.report.columns.push({ name, kind: "place", missing: none + broken, unread: 0, examples: [] });
  return { ...result, table: makeTable(features.length, [...result.table.columns, [name, place]], result.table.info) };
}
