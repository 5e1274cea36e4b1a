import { colorsOf } from "../../chart/color-key";
import type { ColorScale } from "../../chart/inputs";
import type { PlanPiece } from "../../plan/plan";
import type { Channel } from "../../query/query";
import type { Compiling } from "../compiling";
import { crowded, logs, unsorted, zero } from "./axes";
import { wholeCells } from "./cells";
import { type Advice, type ChartView, valuesOf } from "./chart-view";
import { alike, colors, faint, slices } from "./colors";
import { underLegend } from "./legend";
import { barPerValue, crossing, labels, overlap, zigzag } from "./marks";
import { numbersOfThings, stackOfMeans, sumOfMeans } from "./sums";

const ALL: readonly Advice[] = [
  slices,
  colors,
  logs,
  unsorted,
  crowded,
  faint,
  alike,
  zero,
  overlap,
  zigzag,
  barPerValue,
  labels,
  crossing,
  underLegend,
  wholeCells,
  sumOfMeans,
  stackOfMeans,
  numbersOfThings,
];

/** Adds what could be said of the charts of a sheet that is sound. */
export function adviseCharts(
  compiling: Compiling,
  pieces: readonly PlanPiece[],
  colors: Readonly<Record<string, ColorScale>>,
) {
  for (const { name, plan } of pieces) {
    const spec = compiling.sheet.charts.get(name);
    if (plan.type !== "chart" || !spec) continue;
    const values = (channel: Channel | undefined) => valuesOf(compiling, plan, channel);
    const own = (channel: Channel) => colorsOf(colors, channel, plan, name);
    const view: ChartView = { compiling, path: ["charts", name], spec, plan, values, colorsOf: own };
    for (const { code, find } of ALL) {
      const found = find(view);
      if (!found) continue;
      const { source } = compiling.sheet;
      const span = found.at ? source.valueSpan([...view.path, ...found.at]) : source.keySpan(view.path);
      compiling.findings.push({
        code,
        severity: "advice",
        message: found.message,
        piece: name,
        ...(span ? { span } : {}),
        ...(found.fix ? { fix: found.fix } : {}),
        ...(found.marks ? { marks: found.marks } : {}),
      });
    }
  }
}
