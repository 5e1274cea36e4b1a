/** A page as it is laid out: areas on a grid, controls at the side. */
export interface PagePlan {
  name: string;
  side: string[];
  /** CSS track sizes. */
  columns: string[];
  rows: string[];
  areas: PageArea[];
  height: "screen" | "content";
}

/** Where a piece stands: grid lines counted from 1, ends excluded. */
export interface PageArea {
  piece: string;
  column: number;
  columnEnd: number;
  row: number;
  rowEnd: number;
}

/** Pixels between the areas of a grid. */
export const GRID_GAP = { x: 22, y: 14 };

const TRACK = /^(?:\d+(?:\.\d+)?(?:fr|px|%|em|rem|vh|vw)|auto|min-content|max-content|0)$/;

/** Splits CSS track sizes; answers the first word that is none. */
export function readTracks(text: string): { tracks: string[]; wrong?: string } {
  const tracks = text.trim().split(/\s+/).filter(Boolean);
  const wrong = tracks.find((track) => !TRACK.test(track));
  return wrong === undefined ? { tracks } : { tracks, wrong };
}

/** Cells of a grid text, row by row. */
export function gridCells(text: string): string[][] {
  return text
    .split("\n")
    .map((line) => line.trim())
    .filter(Boolean)
    .map((line) => line.split(/\s+/));
}

/** The areas of a grid, or why its cells make none. */
export function readGrid(text: string): { areas: PageArea[]; columns: number; rows: number; problem?: string } {
  const cells = gridCells(text);
  const columns = cells[0]?.length ?? 0;
  const uneven = cells.findIndex((row) => row.length !== columns);
  const result = { areas: [] as PageArea[], columns, rows: cells.length };
  if (uneven > 0)
    return {
      ...result,
      problem: `row ${uneven + 1} of the grid has ${cells[uneven]?.length} cells, the first has ${columns}`,
    };
  const found = new Map<string, PageArea>();
  cells.forEach((row, y) => {
    row.forEach((piece, x) => {
      if (piece === ".") return;
      const area = found.get(piece) ?? { piece, column: x + 1, columnEnd: x + 2, row: y + 1, rowEnd: y + 2 };
      area.column = Math.min(area.column, x + 1);
      area.columnEnd = Math.max(area.columnEnd, x + 2);
      area.row = Math.min(area.row, y + 1);
      area.rowEnd = Math.max(area.rowEnd, y + 2);
      found.set(piece, area);
    });
  });
  for (const area of found.values()) {
    for (let y = area.row; y < area.rowEnd; y++) {
      for (let x = area.column; x < area.columnEnd; x++) {
        if (cells[y - 1]?.[x - 1] !== area.piece)
          return { ...result, problem: `the cells of "${area.piece}" do not make a rectangle` };
      }
    }
  }
  return { ...result, areas: [...found.values()] };
}

/** The page of a sheet that has none: controls at the side, figures in a row, the rest in two columns. */
export function defaultPage(
  report: string,
  pieces: readonly { name: string; figure: boolean }[],
  controls: readonly string[],
): PagePlan {
  const figures = pieces.filter((piece) => piece.figure);
  const others = pieces.filter((piece) => !piece.figure);
  const areas: PageArea[] = [];
  const rows: string[] = [];
  const pair = (list: readonly { name: string }[], height: string) => {
    list.forEach(({ name }, place) => {
      if (place % 2 === 0) rows.push(height);
      const column = (place % 2) + 1;
      const alone = place === list.length - 1 && column === 1;
      areas.push({ piece: name, column, columnEnd: alone ? 3 : column + 1, row: rows.length, rowEnd: rows.length + 1 });
    });
  };
  pair(figures, "96px");
  pair(others, "320px");
  return { name: report, side: [...controls], columns: ["1fr", "1fr"], rows, areas, height: "content" };
}
