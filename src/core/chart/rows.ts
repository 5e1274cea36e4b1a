import { shownChannels } from "../mark/channels";
import type { DrawnLayer } from "../mark/layer";
import { plainValue } from "../query/categories";
import { type Drawn, drawChart } from "./draw";
import type { ChartInput } from "./inputs";
import type { PlainRow } from "./plain-row";
import type { ChartPlan } from "./plan";

/** One object a mark, with its channels' names as keys. */
function plainRows({ values, shapes, plain }: DrawnLayer, keep: (id: number) => boolean): PlainRow[] {
  const own = values.prepared.query.channels;
  // What is the same for every row is no value of a mark.
  const told = shownChannels(own).filter((name) => !own[name]?.constant);
  const channels = told.map((name) => [name, values.get(name)] as const);
  const rows: PlainRow[] = [];
  shapes.forEach(({ ids }, shape) => {
    ids.forEach((id, mark) => {
      if (!keep(id)) return;
      rows.push(
        plain?.(shape, mark) ??
          Object.fromEntries(channels.map(([name, column]) => [name, column ? plainValue(column, id) : null])),
      );
    });
  });
  return rows;
}

function layerRows(
  { plan, off }: RowsInput,
  layer: DrawnLayer,
  place: number,
  keep: (id: number) => boolean,
  picked: boolean | undefined,
): PlainRow[] {
  const { name } = plan.layers[place] as ChartPlan["layers"][number];
  const fades = plan.legend.press === "fade" && off.size > 0;
  return plainRows(layer, keep).map((row) => ({
    ...row,
    ...(plan.layered ? { layer: name } : {}),
    ...(picked === undefined ? {} : { picked }),
    ...(fades && isOff(off, row.color) ? { faded: true } : {}),
  }));
}

/** True for the colour of an entry that a reader has pressed; entries are known by their names. */
const isOff = (off: ReadonlySet<string | null>, color: PlainRow[string] | undefined) =>
  color !== undefined && off.has(color === null ? null : String(color));

const every = () => true;

type RowsInput = Pick<ChartInput, "plan" | "off">;

/** What a chart shows now, as scripts see it: one object a mark, panel by panel and layer by layer. */
export function chartRows(input: RowsInput, { panels }: Drawn, picked?: boolean): PlainRow[] {
  return panels.flatMap(({ layers }) =>
    layers.flatMap((layer, place) => layerRows(input, layer, place, every, picked)),
  );
}

/** The rows of a chart that may be drawn twice: everything faintly, then what is selected. */
export function rowsOfChart(input: ChartInput): PlainRow[] {
  const full = drawChart(input);
  if (!input.layers.some((layer) => layer.base)) return chartRows(input, full);
  const faint = drawChart({
    ...input,
    layers: input.layers.map((layer) => ({ ...layer, current: layer.base?.answer ?? layer.current })),
  });
  const rest = faint.panels.flatMap(({ layers }, panel) =>
    layers.flatMap((layer, place) => {
      const grouped = layer.values.prepared.query.grouped;
      // Rows stand once, among what is picked or among the rest; groups are another number in each.
      const shown = full.panels[panel]?.layers[place]?.shapes.flatMap(({ ids }) => [...ids]);
      const picked = new Set(grouped ? [] : shown);
      return layerRows(input, layer, place, (id) => !picked.has(id), false);
    }),
  );
  return [...rest, ...chartRows(input, full, true)];
}
