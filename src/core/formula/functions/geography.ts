import { arcSine, arcTangent, cosine, sine } from "./elementary";

/** Mean radius of the earth in kilometres, as the IUGG gives it. */
const EARTH = 6371.0088;
const RADIANS = Math.PI / 180;

/** Kilometres along the great circle between two positions in degrees, by the haversine formula. */
export function distanceKilometres(lat: number, lon: number, lat2: number, lon2: number): number {
  const up = sine(((lat2 - lat) * RADIANS) / 2);
  const across = sine(((lon2 - lon) * RADIANS) / 2);
  const half = up * up + cosine(lat * RADIANS) * cosine(lat2 * RADIANS) * across * across;
  return 2 * EARTH * arcSine(Math.min(1, Math.sqrt(half)));
}

/**
 * The compass direction, 0 to 360 degrees, in which a great circle leaves a position for another; missing where
 * both are one.
 */
export function bearingDegrees(lat: number, lon: number, lat2: number, lon2: number): number {
  const turn = (lon2 - lon) * RADIANS;
  const east = sine(turn) * cosine(lat2 * RADIANS);
  const north =
    cosine(lat * RADIANS) * sine(lat2 * RADIANS) - sine(lat * RADIANS) * cosine(lat2 * RADIANS) * cosine(turn);
  if (east === 0 && north === 0) return Number.NaN;
  return (arcTangent(east, north) / RADIANS + 360) % 360;
}
