import { feature } from "topojson-client";
import type { GeometryCollection, Topology } from "topojson-specification";
import land from "world-atlas/land-110m.json" with { type: "json" };
import { textColumn } from "../table/column";
import { makeTable } from "../table/table";
import type { BuiltTable, Compiling } from "./compiling";

/** The name of the table of the world's outlines. No author can write it. */
const NAME = "\u0000world";

/** The outlines of all land as a table with a column of places, made when the first map asks for it. */
export function worldTable(compiling: Compiling): BuiltTable {
  const known = compiling.tables.get(NAME);
  if (known) return known;
  const topology = land as unknown as Topology<{ land: GeometryCollection }>;
  const found = feature(topology, topology.objects.land);
  const places = found.features.map(({ geometry }) => JSON.stringify(rounded(geometry)));
  const table = makeTable(places.length, [["place", { ...textColumn(places, places.length), place: true }]]);
  const built: BuiltTable = {
    name: NAME,
    spec: {},
    table,
    steps: [],
    ledger: [],
    usesSettings: false,
    ties: new Map(),
  };
  compiling.tables.set(NAME, built);
  return built;
}

/** Degrees to two decimals: about a kilometre, finer than these outlines are. */
function rounded<T>(value: T): T {
  if (typeof value === "number") return (Math.round(value * 100) / 100) as T;
  if (Array.isArray(value)) return value.map(rounded) as T;
  if (value === null || typeof value !== "object") return value;
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, rounded(inner)])) as T;
}
