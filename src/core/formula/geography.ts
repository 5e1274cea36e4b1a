/** Mean radius of the earth in kilometres, as the IUGG gives it. */
const EARTH = 6371.0088;
const RADIANS = Math.PI / 180;

/** Kilometres along the great circle between two positions in degrees, by the haversine formula. */
export function distanceKilometres(lat: number, lon: number, lat2: number, lon2: number): number {
  const up = Math.sin(((lat2 - lat) * RADIANS) / 2);
  const across = Math.sin(((lon2 - lon) * RADIANS) / 2);
  const half = up * up + Math.cos(lat * RADIANS) * Math.cos(lat2 * RADIANS) * across * across;
  return 2 * EARTH * Math.asin(Math.min(1, Math.sqrt(half)));
}

/**
 * The compass direction, 0 to 360 degrees, in which a great circle leaves a position for another; missing where
 * both are one.
 */
export function bearingDegrees(lat: number, lon: number, lat2: number, lon2: number): number {
  const turn = (lon2 - lon) * RADIANS;
  const east = Math.sin(turn) * Math.cos(lat2 * RADIANS);
  const north =
    Math.cos(lat * RADIANS) * Math.sin(lat2 * RADIANS) -
    Math.sin(lat * RADIANS) * Math.cos(lat2 * RADIANS) * Math.cos(turn);
  if (east === 0 && north === 0) return Number.NaN;
  return (Math.atan2(east, north) / RADIANS + 360) % 360;
}
