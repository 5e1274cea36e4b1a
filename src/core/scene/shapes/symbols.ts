/**
 * Symbols of points as closed lines about 0, 0, for a disc of radius 1 and the same area; the first is the disc
 * itself.
 */
type Corners = readonly (readonly [number, number])[];

/** A star-shaped or regular figure of so many corners, turned and scaled to the area of a disc. */
function figure(corners: readonly (readonly [number, number])[]): Corners {
  let twice = 0;
  corners.forEach(([x, y], at) => {
    const [x2, y2] = corners[(at + 1) % corners.length] as [number, number];
    twice += x * y2 - x2 * y;
  });
  const scale = Math.sqrt(Math.PI / Math.abs(twice / 2));
  return corners.map(([x, y]) => [x * scale, y * scale]);
}

const regular = (count: number, turn: number) =>
  figure(
    Array.from({ length: count }, (_, at) => {
      const angle = turn + (at / count) * 2 * Math.PI;
      return [Math.sin(angle), -Math.cos(angle)] as const;
    }),
  );

const ARM = 0.38;

/** An upright cross with arms of one width. */
const cross = figure(
  [
    [-ARM, -1],
    [ARM, -1],
    [ARM, -ARM],
    [1, -ARM],
    [1, ARM],
    [ARM, ARM],
    [ARM, 1],
    [-ARM, 1],
    [-ARM, ARM],
    [-1, ARM],
    [-1, -ARM],
    [-ARM, -ARM],
  ].map(([x, y]) => [x as number, y as number] as const),
);

export const SYMBOLS: readonly (Corners | null)[] = [
  null,
  regular(4, Math.PI / 4),
  regular(3, 0),
  regular(4, 0),
  cross,
  regular(3, Math.PI),
  regular(6, 0),
];
