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

/** What an address holds of a data table, each behind the table's name and a dot. */
export const TABLE_STATE = ["sort", "search", "page", "length", "columns"] as const;

/** What an address may hold of a piece beside what is picked on it. */
export const PIECE_STATE: readonly string[] = ["zoom", "fit", "legend", "held", ...TABLE_STATE];

/** How several pieces share one place. */
export const SHARINGS = ["tabs", "stack", "beside"] as const;
export type Sharing = (typeof SHARINGS)[number];

/** What stands in an area: a piece or control by name, or several that share the place. */
export type PageItem = { piece: string } | SharedPlace;

export interface SharedPlace {
  /** The area's own name. */
  area: string;
  sharing: Sharing;
  items: PageItem[];
}

/** Where something stands: grid lines counted from 1, ends excluded. */
export interface PageArea {
  /** The name in the grid: of a piece, or of an area that several share. */
  piece: string;
  /** What shares the place, where several do. */
  shared?: SharedPlace;
  column: number;
  columnEnd: number;
  row: number;
  rowEnd: number;
}

/** Names of all that stands in a place, in whatever tab. */
export const piecesOf = (item: PageItem): string[] =>
  "piece" in item ? [item.piece] : item.items.flatMap((one) => piecesOf(one));

/** What stands in an area. */
export const itemOf = ({ piece, shared }: PageArea): PageItem => shared ?? { piece };

/** Names of all pieces and controls on the grid of a page, in whatever tab. */
export const piecesOn = ({ areas }: PagePlan): string[] => areas.flatMap((area) => piecesOf(itemOf(area)));

/** For each piece of a page the tabs that must be open for it to be seen, from the outermost. */
export function tabsAbove(page: PagePlan): Map<string, { area: string; tab: number }[]> {
  const found = new Map<string, { area: string; tab: number }[]>();
  const walk = (item: PageItem, above: { area: string; tab: number }[]) => {
    if ("piece" in item) found.set(item.piece, above);
    else
      item.items.forEach((one, tab) => {
        walk(one, item.sharing === "tabs" ? [...above, { area: item.area, tab }] : above);
      });
  };
  for (const area of page.areas) walk(itemOf(area), []);
  return found;
}

/** Pieces that stand over one another in a column of a page, each alone in its place. */
export function columnsOf({ areas }: PagePlan): string[][] {
  const columns = new Map<number, string[]>();
  for (const { piece, shared, column } of areas)
    if (!shared) columns.set(column, [...(columns.get(column) ?? []), piece]);
  return [...columns.values()].filter((pieces) => pieces.length > 1);
}

/** Pixels between the areas of a grid. */
export const GRID_GAP = { x: 22, y: 14 };

const SIZE = String.raw`(?:\d+(?:\.\d+)?(?:fr|px|%|em|rem|vh|vw)|auto|min-content|max-content|0)`;
const TRACK = new RegExp(String.raw`^(?:${SIZE}|minmax\(${SIZE},${SIZE}\)|fit-content\(${SIZE}\))$`);
const REPEAT = /^repeat\(([1-9]\d?),(.+)\)$/;

/** Words of a list of tracks: blanks within brackets part none. */
function trackWords(text: string): string[] {
  const words: string[] = [];
  let depth = 0;
  let word = "";
  for (const sign of `${text.trim()} `) {
    depth += sign === "(" ? 1 : sign === ")" ? -1 : 0;
    if (!/\s/.test(sign)) word += sign;
    // What is repeated may be several tracks.
    else if (depth > 0 && word !== "" && !/[(,]$/.test(word)) word += " ";
    else if (depth <= 0 && word !== "") {
      words.push(word);
      word = "";
    }
  }
  if (word !== "") words.push(word);
  return words.map((one) => one.replace(/ ?([,)]) ?/g, "$1"));
}

/** Reads CSS track sizes, those that are repeated one by one; answers the first word that is none. */
export function readTracks(text: string): { tracks: string[]; wrong?: string } {
  const tracks = trackWords(text).flatMap((word) => {
    const [, times, inside] = REPEAT.exec(word) ?? [];
    return inside === undefined ? [word] : Array<string[]>(Number(times)).fill(trackWords(inside)).flat();
  });
  const wrong = tracks.find((track) => !TRACK.test(track));
  return wrong === undefined ? { tracks } : { tracks, wrong };
}

/** The part of the room that is left which a track takes; nothing for one that takes none. */
export function shareOf(track: string): number | undefined {
  const share = /^(?:minmax\(.+,)?(\d+(?:\.\d+)?)fr\)?$/.exec(track)?.[1];
  return share === undefined ? undefined : Number(share);
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

/** Pixels of a piece on a page that grows with its content. */
export const PIECE_HEIGHT = 320;

/** Rows that are as high as what stands in them. */
export const isOpenEnded = (row: string | undefined): boolean => row !== undefined && /^(?:auto|.*-content)$/.test(row);

/** Pixels of a piece, 0 of one that is only as high as it needs to be; `said` where the sheet states them. */
export interface PieceHeight {
  pixels: number;
  said?: true;
}

export type HeightOf = (piece: string) => PieceHeight;

/** How high what shares a place is: in a stack all of them, else the highest; `said` where each of them is. */
function itemHeight(item: PageItem, heightOf: HeightOf): PieceHeight {
  if ("piece" in item) return heightOf(item.piece);
  const all = item.items.map((one) => itemHeight(one, heightOf)).filter(({ pixels }) => pixels > 0);
  const gaps = GRID_GAP.y * Math.max(0, all.length - 1);
  const pixels =
    item.sharing === "stack"
      ? all.reduce((sum, own) => sum + own.pixels, gaps)
      : Math.max(0, ...all.map((own) => own.pixels));
  return { pixels, ...(all.every(({ said }) => said) ? { said: true as const } : {}) };
}

/**
 * Rows of a page that says nothing of them: those of controls, notes and figures are as high as they need, unless
 * something high beside them has no other row to stand in. All others are as high as their highest piece on a page
 * that grows; on one of the height of a screen they share it, but for those of pieces whose heights are stated.
 */
export function naturalRows(page: PagePlan, rows: number, heightOf: HeightOf): string[] {
  const { areas } = page;
  const heights = areas.map((area) => itemHeight(itemOf(area), heightOf));
  const inRow = (at: number) =>
    heights.filter(({ pixels }, place) => {
      const { row, rowEnd } = areas[place] as PageArea;
      return pixels > 0 && row === at + 1 && rowEnd === at + 2;
    });
  const high = Array.from({ length: rows }, (_, at) => Math.max(0, ...inRow(at).map(({ pixels }) => pixels)));
  const grown = high.map((pixels, at) => (pixels > 0 ? `${pixels}px` : rowWithout(areas, heights, high, at)));
  if (page.height === "content") return grown;
  const isShared = (at: number) => inRow(at).some(({ said }) => !said) || high[at] === 0;
  return grown.map((row, at) => (row !== "auto" && isShared(at) ? "1fr" : row));
}

/** A row in which nothing high stands alone: it has a share of what spans it, if that has no row of its own. */
function rowWithout(
  areas: readonly PageArea[],
  heights: readonly PieceHeight[],
  high: readonly number[],
  at: number,
): string {
  if (areas.every(({ row, rowEnd }) => row > at + 1 || rowEnd <= at + 1)) return `${PIECE_HEIGHT}px`;
  const shares = areas.flatMap(({ row, rowEnd }, place) => {
    const pixels = heights[place]?.pixels ?? 0;
    const isHomeless = row <= at + 1 && rowEnd > at + 1 && high.slice(row - 1, rowEnd - 1).every((own) => !own);
    return pixels > 0 && isHomeless ? [Math.ceil(pixels / (rowEnd - row))] : [];
  });
  return shares.length ? `${Math.max(...shares)}px` : "auto";
}

/**
 * The page of a sheet that has none: controls at the side, figures in rows, the rest in two columns, notes as high as
 * they need.
 */
export function defaultPage(
  report: string,
  pieces: readonly { name: string; type: string; height?: number }[],
  controls: readonly string[],
): PagePlan {
  const ofType = (wanted: string) => pieces.filter(({ type }) => type === wanted);
  const others = pieces.filter(({ type }) => type !== "figure" && type !== "note");
  const figures = ofType("figure");
  // Three figures stand side by side: halves and thirds of the page are both whole numbers of sixths.
  const isOdd = figures.length > 1 && figures.length % 2 === 1;
  const columns: string[] = Array(isOdd ? 6 : 2).fill("1fr");
  const areas: PageArea[] = [];
  const rows: string[] = [];
  const line = (pieces: readonly { name: string; height?: number }[], usual: number | "auto") => {
    const stated = pieces.map(({ height }) => height ?? usual);
    rows.push(stated.includes("auto") ? "auto" : `${Math.max(...stated.map(Number))}px`);
    const width = columns.length / pieces.length;
    pieces.forEach(({ name }, place) => {
      const [column, columnEnd] = [1 + place * width, 1 + (place + 1) * width];
      areas.push({ piece: name, column, columnEnd, row: rows.length, rowEnd: rows.length + 1 });
    });
  };
  const pair = (list: readonly { name: string; height?: number }[], usual: number | "auto") => {
    for (let at = 0; at < list.length; at += 2) line(list.slice(at, at + 2), usual);
  };
  if (isOdd) line(figures.slice(0, 3), 96);
  pair(isOdd ? figures.slice(3) : figures, 96);
  pair(others, PIECE_HEIGHT);
  pair(ofType("note"), "auto");
  return { name: report, side: [...controls], columns, rows, areas, height: "content" };
}
