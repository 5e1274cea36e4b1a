import { type Category, nameAt } from "../query/categories";
import { stretchEnd } from "../query/interval";
import type { LayerValues } from "../query/values";
import type { Scale } from "../scale/scales";
import type { Column } from "../table/column";
import { taken } from "../table/taken";
import type { MapProjector, Stage } from "./mark";

/** The number of each group's category on an axis; for text through its dictionary. */
function categoryPlaces(column: Column, categories: readonly Category[], ids: Int32Array): Float64Array {
  const byName = new Map(categories.map(({ name }, place) => [name, place]));
  const byCode =
    column.kind === "text" ? Float64Array.from(column.dictionary, (name) => byName.get(name) ?? Number.NaN) : undefined;
  const missing = byName.get(null) ?? Number.NaN;
  const places = new Float64Array(ids.length);
  for (let i = 0; i < ids.length; i++) {
    const id = ids[i] as number;
    if (byCode && column.kind === "text") {
      const code = column.codes[id] as number;
      places[i] = code < 0 ? missing : (byCode[code] as number);
    } else places[i] = byName.get(nameAt(column, id)) ?? Number.NaN;
  }
  return places;
}

/** Values of a place channel as its axis counts them: numbers, or numbers of categories. */
export function axisValues(
  values: LayerValues,
  name: string,
  axis: "x" | "y",
  stage: Stage,
  ids: Int32Array,
): Float64Array {
  const column = values.get(name);
  const categories = stage.categories[axis];
  if (!column) return new Float64Array(ids.length);
  if (categories) return categoryPlaces(column, categories, ids);
  if (column.kind === "text") return new Float64Array(ids.length).fill(Number.NaN);
  return taken(column.values, ids);
}

/** Pixels by scale, for as many scales as charts usually show a column on. */
const pixelCache = new WeakMap<Float64Array, Map<string, Float64Array>>();
const MOST_SCALES = 4;

/** The pixels of all values of a column on a scale, kept as long as the scale stays as it is. */
function pixelsOf(values: Float64Array, scale: Scale): Float64Array {
  const key = `${scale.type} ${scale.domain.join()} ${scale.range.join()}`;
  const own = pixelCache.get(values) ?? new Map<string, Float64Array>();
  pixelCache.set(values, own);
  const known = own.get(key);
  if (known) return known;
  const pixels = new Float64Array(values.length);
  for (let i = 0; i < values.length; i++) pixels[i] = scale.place(values[i] as number);
  if (own.size === MOST_SCALES) own.delete(own.keys().next().value as string);
  own.set(key, pixels);
  return pixels;
}

/** Pixels of all rows of an ungrouped question on an axis, drawn or not; nothing where places follow something else. */
export function rowPixels(values: LayerValues, name: string, axis: "x" | "y", stage: Stage): Float64Array | undefined {
  const [scale, column] = [stage[axis], values.get(name)];
  if (!scale || stage.project || stage.categories[axis] || values.prepared.query.grouped) return undefined;
  return column && column.kind !== "text" ? pixelsOf(column.values, scale) : undefined;
}

/** Where a place channel puts its groups or rows, in pixels; without a scale at 0. */
export function pixelPlaces(
  values: LayerValues,
  name: string,
  axis: "x" | "y",
  stage: Stage,
  ids: Int32Array,
): Float64Array {
  if (stage.project) return onMap(values, name, axis, stage.project, ids);
  const scale = stage[axis];
  if (!scale) return new Float64Array(ids.length);
  // Rows keep their place while a brush moves; only which of them are drawn changes.
  const rows = rowPixels(values, name, axis, stage);
  if (rows) return taken(rows, ids);
  const places = axisValues(values, name, axis, stage, ids);
  const edges = stage.bars === axis ? values.prepared.edges.get(name) : undefined;
  if (!edges) return places.map(scale.place);
  return places.map((value) => (scale.place(value) + scale.place(stretchEnd(edges, value))) / 2);
}

interface Pixels {
  x: Float64Array;
  y: Float64Array;
}

const mapCache = new WeakMap<Int32Array, { project: MapProjector; end: string; both: Pixels }>();

/** Pixels of longitudes and latitudes on a map, of `x` and `y` or their other ends. */
function onMap(
  values: LayerValues,
  name: string,
  axis: "x" | "y",
  project: MapProjector,
  ids: Int32Array,
): Float64Array {
  const end = name.endsWith("_to") ? "_to" : "";
  const [lon, lat] = [values.numbers(`lon${end}`), values.numbers(`lat${end}`)];
  if (!lon || !lat) return new Float64Array(ids.length).fill(Number.NaN);
  // Both pixels of a place are found at once, and asked for one after the other.
  const known = mapCache.get(ids);
  if (known?.project === project && known.end === end) return known.both[axis];
  const both: Pixels = { x: new Float64Array(ids.length), y: new Float64Array(ids.length) };
  for (let i = 0; i < ids.length; i++) {
    const at = project.point(lon[ids[i] as number] as number, lat[ids[i] as number] as number);
    both.x[i] = at[0];
    both.y[i] = at[1];
  }
  mapCache.set(ids, { project, end, both });
  return both[axis];
}
