/** Nine made-up parishes as GeoJSON: crooked cells of a grid, with how many live there. */
export function parishesGeoJson(): string {
  const corner = (column: number, row: number): [number, number] => [
    -2.6 + column * 0.16 + Math.sin(column * 3 + row * 5) * 0.03,
    53.9 + row * 0.1 + Math.cos(column * 4 + row * 2) * 0.02,
  ];
  const features = Array.from({ length: 9 }, (_, at) => {
    const [column, row] = [at % 3, Math.floor(at / 3)];
    const ring = [
      corner(column, row),
      corner(column, row + 1),
      corner(column + 1, row + 1),
      corner(column + 1, row),
      corner(column, row),
    ];
    const parish = ["Ash", "Birk", "Crook", "Dale", "Esk", "Fell", "Gill", "How", "Ings"][at];
    return {
      type: "Feature",
      properties: { parish, people: 120 + ((at * 577) % 900) },
      geometry: { type: "Polygon", coordinates: [ring] },
    };
  });
  return JSON.stringify({ type: "FeatureCollection", features });
}
