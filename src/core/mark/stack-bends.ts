import type { AreaEdges } from "../scene/shapes/areas";

/**
 * Edges of areas that lie on one another, with a vertex of no height wherever an area has none and others have: what
 * lies on it there lies on what is below it. Areas are in the order in which they were heaped, all to one side.
 * Nothing where none is wanted: every area has a vertex at every place, or something is missing or broken off.
 */
export function bendsOf({ along, from, to, starts }: AreaEdges): AreaEdges | undefined {
  const areas = starts.length - 1;
  if (areas < 2) return undefined;
  const different = new Set(along);
  if (along.length === different.size * areas) return undefined;
  const places = [...different].sort((a, b) => a - b);
  const vertexAt = Array.from({ length: areas }, () => new Map<number, number>());
  let [ups, downs] = [0, 0];
  for (let area = 0; area < areas; area++)
    for (let i = starts[area] as number; i < (starts[area + 1] as number); i++) {
      const height = (to[i] as number) - (from[i] as number);
      const own = vertexAt[area] as Map<number, number>;
      if (height !== height || own.has(along[i] as number)) return undefined;
      if (height > 0) ups += 1;
      else if (height < 0) downs += 1;
      own.set(along[i] as number, i);
    }
  if (ups && downs) return undefined;
  const bent: { along: number[]; from: number[]; to: number[]; starts: number[] } = {
    along: [],
    from: [],
    to: [],
    starts: [0],
  };
  for (let area = 0; area < areas; area++) {
    for (const place of places) {
      const own = vertexAt[area]?.get(place);
      const base = own === undefined ? baseAt(vertexAt, area, place, { from, to }) : undefined;
      bent.along.push(place);
      bent.from.push(base ?? (from[own as number] as number));
      bent.to.push(base ?? (to[own as number] as number));
    }
    bent.starts.push(bent.along.length);
  }
  return {
    along: Float64Array.from(bent.along),
    from: Float64Array.from(bent.from),
    to: Float64Array.from(bent.to),
    starts: Int32Array.from(bent.starts),
  };
}

/** Where an area would begin at a place: on the nearest one below it, else where the first one above it begins. */
function baseAt(
  vertexAt: readonly ReadonlyMap<number, number>[],
  area: number,
  place: number,
  { from, to }: Pick<AreaEdges, "from" | "to">,
): number {
  for (let below = area - 1; below >= 0; below--) {
    const vertex = vertexAt[below]?.get(place);
    if (vertex !== undefined) return to[vertex] as number;
  }
  const above = vertexAt
    .slice(area + 1)
    .map((own) => own.get(place))
    .find((vertex) => vertex !== undefined);
  return from[above as number] as number;
}
