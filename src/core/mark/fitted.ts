import { plainValue } from "../query/categories";
import { writeNumber } from "../query/write";
import { Areas } from "../scene/shapes/areas";
import { Lines } from "../scene/shapes/lines";
import type { Curve } from "../stat/local-regression";
import type { Drawing, Marks } from "./mark";
import { type RowGroup, rowGroups } from "./row-groups";

const STROKE = 2;

interface Fitted extends Curve {
  group: RowGroup;
}

/** Curves that are fitted to the rows of each colour and series as they are drawn now. */
export function fittedMarks(
  drawing: Drawing,
  curveOf: (numbers: { x: Float64Array; y: Float64Array }) => Curve,
  filled: boolean,
): Marks {
  const { layer, values, ids, stage, base } = drawing;
  const [xs, ys] = [values.numbers("x"), values.numbers("y")];
  if (!xs || !stage.x || !stage.y) return { shapes: [] };
  const curves = rowGroups(values, ids, ["color", "series"]).map((group): Fitted => {
    const own = (all: Float64Array) => Float64Array.from(group.at, (at) => all[ids[at] as number] as number);
    return { group, ...curveOf({ x: own(xs), y: ys ? own(ys) : new Float64Array(0) }) };
  });
  const starts = [0];
  for (const { x } of curves) starts.push((starts.at(-1) as number) + x.length);
  const colors = curves.map(({ group }) => base.color[group.at[0] as number] as number);
  const all = (name: "x" | "y") => Float64Array.from(curves.flatMap((curve) => [...curve[name]]));
  const [x, y] = [all("x"), all("y")];
  const each = <T>(value: (curve: Fitted, at: number) => T) =>
    curves.flatMap((curve, at) => Array.from({ length: curve.x.length }, () => value(curve, at)));
  const own = {
    ...base,
    ids: Int32Array.from(each(({ group }) => group.id)),
    color: Uint16Array.from(each((_, at) => colors[at] as number)),
  };
  const { size } = layer.looks;
  const [placeX, placeY] = [stage.x.place, stage.y.place];
  const lineParts = {
    x: x.map(placeX),
    y: y.map(placeY),
    starts: Int32Array.from(starts),
    lineColor: Uint16Array.from(colors),
    width: typeof size === "number" ? size : STROKE,
  };
  const under = new Areas(
    { ...own, opacity: own.opacity * 0.16 },
    {
      along: lineParts.x,
      from: new Float64Array(x.length).fill(placeY(0)),
      to: lineParts.y,
      axis: "x",
      starts: lineParts.starts,
      areaColor: lineParts.lineColor,
    },
  );
  return {
    shapes: [new Lines(own, lineParts)],
    ...(filled ? { beside: [under] } : {}),
    ...curveWords(drawing, own.ids, x, y),
  };
}

/** What rows() and tooltips say of the places on fitted curves. */
function curveWords(
  { layer, values, input }: Drawing,
  ids: Int32Array,
  x: Float64Array,
  y: Float64Array,
): Pick<Marks, "plain" | "lines"> {
  const keys = ["color", "series"].flatMap((name) => {
    const column = values.get(name);
    return column ? [[name, column] as const] : [];
  });
  const { channels } = layer.plan.query;
  const kindX = values.get("x")?.kind ?? "number";
  const place = (value: number) =>
    plainValue({ kind: kindX === "text" ? "number" : kindX, values: Float64Array.of(value) }, 0);
  return {
    plain: (_, mark) => ({
      x: place(x[mark] as number),
      y: y[mark] as number,
      ...Object.fromEntries(keys.map(([name, column]) => [name, plainValue(column, ids[mark] as number)])),
    }),
    lines: (_, mark) => [
      ...(channels.x ? [{ label: channels.x.label, text: writeNumber(channels.x, x[mark] as number) }] : []),
      {
        label: channels.y?.label ?? input.plan.axes.y?.title ?? "",
        text: channels.y
          ? writeNumber(channels.y, y[mark] as number)
          : String(Number((y[mark] as number).toPrecision(3))),
      },
      ...keys.map(([name, column]) => ({
        label: channels[name]?.label ?? name,
        text: String(plainValue(column, ids[mark] as number) ?? "missing"),
      })),
    ],
  };
}
