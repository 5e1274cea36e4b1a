import type { CSSProperties } from "react";
import { type CellRect, type Cells, rectOf } from "../../core/page/grid-edit";
import type { PagePlan } from "../../core/page/page";
import type { ProofTracks } from "../../viewer/proof/listen";

/** Pixels at the top of a piece in which another is dropped to make tabs. */
export const HEAD = 26;

/** The edges by which a piece is stretched, and where each is taken. */
export const EDGES = {
  left: { style: { left: 0, top: 0, bottom: 0, width: 9, cursor: "ew-resize" } },
  right: { style: { right: 0, top: 0, bottom: 0, width: 9, cursor: "ew-resize" } },
  top: { style: { top: 0, left: 0, right: 0, height: 9, cursor: "ns-resize" } },
  bottom: { style: { bottom: 0, left: 0, right: 0, height: 9, cursor: "ns-resize" } },
} as const satisfies Record<string, { style: CSSProperties }>;
export type EdgeName = keyof typeof EDGES;

/** Where the tracks and pieces of a page lie over its picture, in the page's own pixels. */
export interface Lattice {
  tracks: ProofTracks;
  page: PagePlan;
  cells: Cells;
  /** Where columns begin, and rows. */
  xs: readonly number[];
  ys: readonly number[];
}

/** Where tracks begin, in pixels. */
const begins = (start: number, sizes: readonly number[], gap: number): number[] =>
  sizes.map((_, at) => start + sizes.slice(0, at).reduce((sum, size) => sum + size, 0) + gap * at);

/** The lattice of a page of which the picture has said where its tracks lie. */
export const latticeOf = (tracks: ProofTracks, page: PagePlan, cells: Cells): Lattice => ({
  tracks,
  page,
  cells,
  xs: begins(tracks.left, tracks.columns, tracks.gap.x),
  ys: begins(tracks.top, tracks.rows, tracks.gap.y),
});

/** The box of a rectangle of cells, in pixels. */
export function boxOf({ tracks, xs, ys }: Lattice, { column, columnEnd, row, rowEnd }: CellRect) {
  return {
    left: xs[column] ?? 0,
    top: ys[row] ?? 0,
    width: (xs[columnEnd - 1] ?? 0) + (tracks.columns[columnEnd - 1] ?? 0) - (xs[column] ?? 0),
    height: (ys[rowEnd - 1] ?? 0) + (tracks.rows[rowEnd - 1] ?? 0) - (ys[row] ?? 0),
  };
}

/** The number of the track at a pixel. */
function trackAt(places: readonly number[], sizes: readonly number[], pixel: number): number {
  const at = places.findIndex((place, n) => pixel < place + (sizes[n] as number));
  return at < 0 ? places.length - 1 : at;
}

/** The cell at a pixel of the page. */
export const cellAt = ({ tracks, xs, ys }: Lattice, { x, y }: { x: number; y: number }) => ({
  column: trackAt(xs, tracks.columns, x),
  row: trackAt(ys, tracks.rows, y),
});

/** The piece, other than `but`, whose head is at a pixel of the page. */
export const headAt = (lattice: Lattice, { x, y }: { x: number; y: number }, but: string): string | undefined =>
  lattice.page.areas.find(({ piece, shared }) => {
    const rect = piece === but || (shared && shared.sharing !== "tabs") ? undefined : rectOf(lattice.cells, piece);
    if (!rect) return false;
    const { left, top, width } = boxOf(lattice, rect);
    return x >= left && x < left + width && y >= top && y < top + HEAD;
  })?.piece;

/** A rectangle whose one edge goes to a cell. */
export function stretched(rect: CellRect, edge: EdgeName, column: number, row: number): CellRect {
  if (edge === "left") return { ...rect, column: Math.min(column, rect.columnEnd - 1) };
  if (edge === "right") return { ...rect, columnEnd: Math.max(column + 1, rect.column + 1) };
  if (edge === "top") return { ...rect, row: Math.min(row, rect.rowEnd - 1) };
  return { ...rect, rowEnd: Math.max(row + 1, rect.row + 1) };
}

/** The first piece along the side of a rectangle that lies in a direction. */
export function neighbourOf(cells: Cells, { column, columnEnd, row, rowEnd }: CellRect, x: number, y: number) {
  const side = y
    ? (cells[y < 0 ? row - 1 : rowEnd] ?? []).slice(column, columnEnd)
    : cells.slice(row, rowEnd).map((line) => line[x < 0 ? column - 1 : columnEnd] ?? ".");
  return side.find((cell) => cell !== ".");
}

/** A rectangle moved so that it begins at a cell, within the grid. */
export function movedTo(rect: CellRect, column: number, row: number, cells: Cells): CellRect {
  const [width, height] = [rect.columnEnd - rect.column, rect.rowEnd - rect.row];
  const x = Math.max(0, Math.min((cells[0]?.length ?? 0) - width, column));
  const y = Math.max(0, Math.min(cells.length - height, row));
  return { column: x, columnEnd: x + width, row: y, rowEnd: y + height };
}
