import { LayerValues } from "../query/values";
import { densityCurve, KERNELS, type Kernel } from "../stat/kernel-density";
import { extentOf } from "../table/extent";
import { taken } from "../table/taken";
import { fittedMarks } from "./fitted";
import type { MarkDraw, MarkSpec } from "./mark";
import { rowGroups } from "./row-groups";

export const densitySpec = {
  name: "density",
  says: "How densely the rows lie along x, as a curve with an area of 1 for each colour.",
  many: "places on curves",
  needs: [["x"]],
  needed: "density needs x:",
  takes: ["x", "color", "opacity", "size", "series"],
  options: {
    kernel: { takes: KERNELS, says: "The shape of the bump that each row makes; gaussian if unsaid." },
    adjust: { takes: "number", says: "Makes the curve smoother above 1, rougher below." },
  },
  merges: ["color", "series"],
  measures: { label: "Density", fromZero: true },
} as const satisfies MarkSpec;

type Options = Readonly<Record<string, unknown>>;

function curveOf(options: Options, values: Float64Array) {
  const kernel = KERNELS.find((one) => one === options.kernel) ?? ("gaussian" satisfies Kernel);
  return densityCurve(values, kernel, typeof options.adjust === "number" ? options.adjust : 1);
}

export const densityDraw: MarkDraw = {
  ends(_, layer, answer, ids, axis) {
    const values = new LayerValues(answer, layer.all);
    const numbers = values.numbers("x");
    if (!numbers) return [];
    if (axis === "x") {
      // Curves reach beyond the rows that make them.
      const curves = rowGroups(values, ids, ["color", "series"]).map(({ at }) =>
        curveOf(
          layer.options,
          Float64Array.from(at, (one) => numbers[ids[one] as number] as number),
        ),
      );
      return [
        ...(extentOf(taken(numbers, ids)) ?? []),
        ...curves.flatMap(({ x }) => [x[0] ?? Number.NaN, x.at(-1) ?? Number.NaN]),
      ];
    }
    return rowGroups(values, ids, ["color", "series"]).flatMap(({ at }) => [
      ...curveOf(
        layer.options,
        Float64Array.from(at, (one) => numbers[ids[one] as number] as number),
      ).y,
    ]);
  },
  shapes: (drawing) => fittedMarks(drawing, ({ x }) => curveOf(drawing.layer.options, x), true),
};
