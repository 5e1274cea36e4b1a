import type { Answer } from "../query/answer";
import { type Category, categoriesOf, nameAt } from "../query/categories";
import type { Prepared } from "../query/prepare";
import { PANEL_CHANNELS, type PanelChannel } from "../query/query";
import type { ChartInput } from "./inputs";

/** One small chart: where it stands in the grid of them, and which values it is of. */
export interface PanelPlace {
  row: number;
  column: number;
  names: Partial<Record<PanelChannel, string | null>>;
}

export interface PanelGrid {
  rows: number;
  columns: number;
  places: PanelPlace[];
}

const ONE: PanelGrid = { rows: 1, columns: 1, places: [{ row: 0, column: 0, names: {} }] };

function categoriesOfChannel({ layers }: ChartInput, channel: PanelChannel): Category[] {
  const found = new Map<string | null, Category>();
  for (const { all } of layers) {
    const column = all.prepared.keys.get(channel);
    if (!column) continue;
    for (const category of categoriesOf(column, all.prepared.query.channels[channel]?.order))
      found.set(category.name, category);
  }
  return [...found.values()];
}

/** The small charts of a chart, in the order in which they are read; a chart without panels is one. */
export function panelGrid(input: ChartInput): PanelGrid {
  const named = (channel: PanelChannel) => categoriesOfChannel(input, channel).map(({ name }) => name);
  const [list, across, down] = PANEL_CHANNELS.map(named) as [(string | null)[], (string | null)[], (string | null)[]];
  if (list.length) {
    const wanted = input.plan.panels?.across;
    const columns = Math.min(list.length, wanted ?? columnsFor(list.length, input.width, input.height));
    const places = list.map((panel, at) => ({ row: Math.floor(at / columns), column: at % columns, names: { panel } }));
    return { rows: Math.ceil(list.length / columns), columns, places };
  }
  if (across.length === 0 && down.length === 0) return ONE;
  const places = (down.length ? down : [undefined]).flatMap((below, row) =>
    (across.length ? across : [undefined]).map((beside, column) => ({
      row,
      column,
      names: {
        ...(beside === undefined ? {} : { across: beside }),
        ...(below === undefined ? {} : { down: below }),
      },
    })),
  );
  return { rows: Math.max(1, down.length), columns: Math.max(1, across.length), places };
}

/** As many columns as make the small charts about one and a half times as wide as high. */
function columnsFor(count: number, width: number, height: number): number {
  return Math.max(1, Math.min(count, Math.round(Math.sqrt((count * width) / (height * 1.5)))));
}

const placeCache = new WeakMap<Prepared, { grid: PanelGrid; of: Int32Array }>();

/** The panel of each group or row, as a place in the grid's list; -1 where it has none. */
function panelsOf(prepared: Prepared, grid: PanelGrid): Int32Array {
  const known = placeCache.get(prepared);
  if (known && known.grid.places.length === grid.places.length) return known.of;
  const byName = new Map(grid.places.map(({ names }, at) => [JSON.stringify(names), at]));
  const columns = PANEL_CHANNELS.flatMap((channel) => {
    const column = prepared.keys.get(channel);
    return column ? [[channel, column] as const] : [];
  });
  const of = new Int32Array(prepared.groupCount);
  for (let group = 0; group < of.length; group++) {
    const names = Object.fromEntries(columns.map(([channel, column]) => [channel, nameAt(column, group)]));
    of[group] = byName.get(JSON.stringify(names)) ?? -1;
  }
  placeCache.set(prepared, { grid, of });
  return of;
}

/** Those of some groups or rows that stand in a panel. */
export function inPanel(grid: PanelGrid, panel: number, { prepared }: Answer, ids: Int32Array): Int32Array {
  if (grid.places.length === 1 && Object.keys(grid.places[0]?.names ?? {}).length === 0) return ids;
  const of = panelsOf(prepared, grid);
  return ids.filter((id) => of[id] === panel);
}
