import { shownChannels } from "../mark/channels";
import type { DrawnLayer } from "../mark/layer";
import { plainValue } from "../query/categories";
import { type Drawn, drawChart } from "./draw";
import type { ChartInput } from "./inputs";
import type { PlainRow } from "./plain-row";
import type { ChartPlan } from "./plan";

/** One object a mark, with its channels' names as keys; no more than are wanted. */
function plainRows({ values, shapes, plain }: DrawnLayer, keep: (id: number) => boolean, most: number): PlainRow[] {
  const own = values.prepared.query.channels;
  // What is the same for every row is no value of a mark.
  const told = shownChannels(own).filter((name) => !own[name]?.constant);
  const channels = told.map((name) => [name, values.get(name)] as const);
  const rows: PlainRow[] = [];
  for (const [shape, { ids }] of shapes.entries())
    for (let mark = 0; mark < ids.length && rows.length < most; mark++) {
      const id = ids[mark] as number;
      if (!keep(id)) continue;
      const row: PlainRow = { ...plain?.(shape, mark) };
      if (!plain) for (const [name, column] of channels) row[name] = column ? plainValue(column, id) : null;
      rows.push(row);
    }
  return rows;
}

function layerRows(
  { plan, off }: RowsInput,
  layer: DrawnLayer,
  place: number,
  told: { keep?: (id: number) => boolean; picked?: boolean | undefined; most: number },
): PlainRow[] {
  const { name } = plan.layers[place] as ChartPlan["layers"][number];
  const fades = plan.legend.press === "fade" && off.size > 0;
  const rows = plainRows(layer, told.keep ?? every, told.most);
  for (const row of rows) {
    if (plan.layered) row.layer = name;
    if (told.picked !== undefined) row.picked = told.picked;
    if (fades && isOff(off, row.color)) row.faded = true;
  }
  return rows;
}

/** True for the colour of an entry that a reader has pressed; entries are known by their names. */
const isOff = (off: ReadonlySet<string | null>, color: PlainRow[string] | undefined) =>
  color !== undefined && off.has(color === null ? null : String(color));

const every = () => true;

type RowsInput = Pick<ChartInput, "plan" | "off">;

/**
 * What a chart shows now, as scripts see it: one object a mark, panel by panel and layer by layer.
 * @param most no more than so many are made of each layer in each panel
 */
export function chartRows(
  input: RowsInput,
  { panels }: Drawn,
  picked?: boolean,
  most = Number.POSITIVE_INFINITY,
): PlainRow[] {
  return panels.flatMap(({ layers }) =>
    layers.flatMap((layer, place) => layerRows(input, layer, place, { picked, most })),
  );
}

/** Which rows of a layer are marks, by row or group. */
function shownIn(layer: DrawnLayer | undefined): Uint8Array {
  const shown = new Uint8Array(layer?.values.answer.counts.length ?? 0);
  for (const { ids } of layer?.shapes ?? [])
    for (let mark = 0; mark < ids.length; mark++) shown[ids[mark] as number] = 1;
  return shown;
}

/**
 * The rows of a chart that may be drawn twice: everything faintly, then what is selected.
 * @param most no more than so many are made of each layer in each panel
 */
export function rowsOfChart(input: ChartInput, most = Number.POSITIVE_INFINITY): PlainRow[] {
  const full = drawChart(input);
  if (!input.layers.some((layer) => layer.base)) return chartRows(input, full, undefined, most);
  const faint = drawChart({
    ...input,
    layers: input.layers.map((layer) => ({ ...layer, current: layer.base?.answer ?? layer.current })),
  });
  const rest = faint.panels.flatMap(({ layers }, panel) =>
    layers.flatMap((layer, place) => {
      const grouped = layer.values.prepared.query.grouped;
      // Rows stand once, among what is picked or among the rest; groups are another number in each.
      const picked = shownIn(grouped ? undefined : full.panels[panel]?.layers[place]);
      return layerRows(input, layer, place, { keep: (id) => !picked[id], picked: false, most });
    }),
  );
  return [...rest, ...chartRows(input, full, true, most)];
}
