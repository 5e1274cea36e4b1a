import { channelsOf } from "../hexadecimal";
import { type Ground, paintOf } from "../theme";
import type { Discs } from "./discs";
import { FAINT, px } from "./shape";

/** Side of a cell in which points are counted where pixels cannot be painted, in pixels. */
const CELL = 3;
/** How dark a single point is: it must be seen. */
const LEAST = 0.22;

/** How dark a place is on which so many points lie, 0 to 1: by their logarithm, as crowds differ by factors. */
export const darkness = (count: number, most: number): number =>
  count <= 0 ? 0 : LEAST + (1 - LEAST) * (Math.log1p(count) / Math.log1p(Math.max(most, 1)));

interface Cell {
  count: number;
  rgb: [number, number, number];
}

/** Points counted in small squares, by the square's place; each has the mean colour of its points. */
function cellsOf({ x, y, color, paints, picked }: Discs, ground: Ground): Map<string, Cell> {
  const cells = new Map<string, Cell>();
  const known = paints.map((paint) => channelsOf(paintOf(paint, ground)));
  for (let mark = 0; mark < x.length; mark++) {
    const weight = picked?.[mark] === 0 ? FAINT : 1;
    const key = `${Math.floor((x[mark] as number) / CELL)} ${Math.floor((y[mark] as number) / CELL)}`;
    let cell = cells.get(key);
    if (!cell) {
      cell = { count: 0, rgb: [0, 0, 0] };
      cells.set(key, cell);
    }
    cell.count += weight;
    const paint = known[color[mark] as number] as [number, number, number];
    for (let channel = 0; channel < 3; channel++)
      cell.rgb[channel] = (cell.rgb[channel] as number) + (paint[channel] as number) * weight;
  }
  return cells;
}

/** Shaded points as small squares: a picture of bounded size however many points there are. */
export function shadedSvg(discs: Discs, ground: Ground): string {
  const cells = cellsOf(discs, ground);
  let most = 0;
  for (const { count } of cells.values()) if (count > most) most = count;
  let out = "";
  for (const [key, { count, rgb }] of cells) {
    const [column, row] = key.split(" ").map(Number) as [number, number];
    const fill = rgb.map((sum) => Math.round(sum / count)).join(",");
    const alpha = (darkness(count, most) * discs.opacity).toFixed(2);
    const place = `x="${px(column * CELL)}" y="${px(row * CELL)}" width="${CELL}" height="${CELL}"`;
    out += `<rect ${place} fill="rgb(${fill})" fill-opacity="${alpha}"/>`;
  }
  return out;
}
