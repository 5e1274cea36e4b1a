import type { PagePlan } from "./page";

/** Cells of a grid, row by row; `.` is empty. */
export type Cells = readonly (readonly string[])[];

/** A rectangle of cells, counted from 0; `columnEnd` and `rowEnd` are not in it. */
export interface CellRect {
  column: number;
  columnEnd: number;
  row: number;
  rowEnd: number;
}

const EMPTY = ".";

/** The cells of a page as its sheet says them. */
export const cellsOf = ({ areas, columns, rows }: PagePlan): string[][] =>
  rows.map((_, y) =>
    columns.map(
      (__, x) =>
        areas.find(
          ({ column, columnEnd, row, rowEnd }) =>
            x + 1 >= column && x + 1 < columnEnd && y + 1 >= row && y + 1 < rowEnd,
        )?.piece ?? EMPTY,
    ),
  );

const isIn = ({ column, columnEnd, row, rowEnd }: CellRect, x: number, y: number): boolean =>
  x >= column && x < columnEnd && y >= row && y < rowEnd;

const sizeOf = ({ column, columnEnd, row, rowEnd }: CellRect): number =>
  Math.max(0, columnEnd - column) * Math.max(0, rowEnd - row);

/** Where a name stands; nothing where it stands nowhere. */
export function rectOf(cells: Cells, name: string): CellRect | undefined {
  let rect: CellRect | undefined;
  cells.forEach((line, row) => {
    line.forEach((cell, column) => {
      if (cell !== name) return;
      rect = rect
        ? {
            column: Math.min(rect.column, column),
            columnEnd: Math.max(rect.columnEnd, column + 1),
            row: rect.row,
            rowEnd: row + 1,
          }
        : { column, columnEnd: column + 1, row, rowEnd: row + 1 };
    });
  });
  return rect;
}

const filled = (cells: Cells, rect: CellRect, name: string): string[][] =>
  cells.map((line, y) => line.map((cell, x) => (isIn(rect, x, y) ? name : cell)));

/** The largest part of a rectangle that another leaves free. */
function leftBy(own: CellRect, taken: CellRect): CellRect | undefined {
  const parts: CellRect[] = [
    { ...own, columnEnd: Math.min(own.columnEnd, taken.column) },
    { ...own, column: Math.max(own.column, taken.columnEnd) },
    { ...own, rowEnd: Math.min(own.rowEnd, taken.row) },
    { ...own, row: Math.max(own.row, taken.rowEnd) },
  ];
  const [largest] = parts.filter((part) => sizeOf(part) > 0).sort((a, b) => sizeOf(b) - sizeOf(a));
  return largest;
}

const overlaps = (a: CellRect, b: CellRect): boolean =>
  a.column < b.columnEnd && b.column < a.columnEnd && a.row < b.rowEnd && b.row < a.rowEnd;

/**
 * Puts a piece into a rectangle of cells. What stood there keeps the largest part that is left to it;
 * what would have none takes the place that the piece leaves. Nothing where some piece would have no
 * place any more, or the rectangle lies outside.
 */
export function placePiece(cells: Cells, name: string, rect: CellRect): string[][] | undefined {
  const width = cells[0]?.length ?? 0;
  if (rect.column < 0 || rect.row < 0 || rect.columnEnd > width || rect.rowEnd > cells.length || sizeOf(rect) === 0)
    return undefined;
  const before = rectOf(cells, name);
  let next = cells.map((line) => line.map((cell) => (cell === name ? EMPTY : cell)));
  const homeless: string[] = [];
  for (const other of new Set(cells.flat())) {
    const own = other === EMPTY || other === name ? undefined : rectOf(cells, other);
    if (!own || !overlaps(own, rect)) continue;
    next = filled(next, own, EMPTY);
    const left = leftBy(own, rect);
    if (left) next = filled(next, left, other);
    else homeless.push(other);
  }
  next = filled(next, rect, name);
  for (const other of homeless) {
    const free = before && overlaps(before, rect) ? leftBy(before, rect) : before;
    const isFree = free && next.every((line, y) => line.every((cell, x) => !isIn(free, x, y) || cell === EMPTY));
    if (!free || !isFree) return undefined;
    next = filled(next, free, other);
  }
  return next;
}

/** A column or row more before another; pieces that reach over the line grow with it. */
export function insertTrack(cells: Cells, along: "column" | "row", at: number): string[][] {
  if (along === "row") {
    const [above, below] = [cells[at - 1], cells[at]];
    const line = (cells[0] ?? []).map((_, x) =>
      above && below && above[x] === below[x] ? (above[x] as string) : EMPTY,
    );
    return [...cells.slice(0, at).map((one) => [...one]), line, ...cells.slice(at).map((one) => [...one])];
  }
  return cells.map((line) => {
    const [left, right] = [line[at - 1], line[at]];
    return [...line.slice(0, at), left !== undefined && left === right ? left : EMPTY, ...line.slice(at)];
  });
}

/** A column or row less; nothing where a piece stands in it alone. */
export function removeTrack(cells: Cells, along: "column" | "row", at: number): string[][] | undefined {
  const next =
    along === "row"
      ? cells.filter((_, y) => y !== at).map((line) => [...line])
      : cells.map((line) => line.filter((_, x) => x !== at));
  const left = new Set(next.flat());
  const isLost = cells.flat().some((cell) => cell !== EMPTY && !left.has(cell));
  return isLost || next.length === 0 || next[0]?.length === 0 ? undefined : next;
}

/** A grid with the sizes of its tracks. */
export interface Laid {
  cells: string[][];
  columns: string[];
  rows: string[];
}

/** Takes a piece off the grid, and the columns and rows in which it stood alone. */
export function withoutPiece({ cells, columns, rows }: Laid, name: string): Laid {
  const isAlone = (own: readonly string[]) =>
    own.includes(name) && own.every((cell) => cell === name || cell === EMPTY);
  const goneRows = new Set(cells.flatMap((line, y) => (isAlone(line) ? [y] : [])));
  const goneColumns = new Set(columns.flatMap((_, x) => (isAlone(cells.map((line) => line[x] ?? EMPTY)) ? [x] : [])));
  const left = cells
    .filter((_, y) => !goneRows.has(y))
    .map((line) => line.filter((_, x) => !goneColumns.has(x)).map((cell) => (cell === name ? EMPTY : cell)));
  return {
    cells: left,
    columns: columns.filter((_, x) => !goneColumns.has(x)),
    rows: rows.filter((_, y) => !goneRows.has(y)),
  };
}

/** A grid as a person would write it: a line a row, names of a column one under the other. */
export function writeGrid(cells: Cells): string[] {
  const widths = (cells[0] ?? []).map((_, x) => Math.max(...cells.map((line) => (line[x] as string).length)));
  return cells.map((line) =>
    line
      .map((cell, x) => cell.padEnd(widths[x] as number))
      .join("  ")
      .trimEnd(),
  );
}
