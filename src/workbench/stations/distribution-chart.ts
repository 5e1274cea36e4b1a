import { BarChart } from "echarts/charts";
import { GridComponent } from "echarts/components";
import { init, use as register } from "echarts/core";
import { CanvasRenderer } from "echarts/renderers";

register([BarChart, GridComponent, CanvasRenderer]);

export interface DistributionBars {
  bars: readonly number[];
  /** In pixels. */
  width: number;
  height: number;
  /** The first and last of the bars that are lit. */
  lit: readonly [number, number];
}

/** Draws a distribution into an element; answers how to take it away again. */
export function drawDistribution(host: HTMLElement, { bars, width, height, lit: [from, to] }: DistributionBars) {
  const chart = init(host, null, { width, height });
  const style = getComputedStyle(document.documentElement);
  const [color, brushed] = [style.getPropertyValue("--bars").trim(), style.getPropertyValue("--brass").trim()];
  chart.setOption({
    animation: false,
    grid: { left: 0, right: 0, top: 0, bottom: 0 },
    xAxis: { type: "category", show: false, data: bars.map((_, at) => at) },
    yAxis: { type: "value", show: false, min: 0 },
    series: [
      {
        type: "bar",
        silent: true,
        data: bars.map((bar, at) => (at >= from && at <= to ? { value: bar, itemStyle: { color: brushed } } : bar)),
        barCategoryGap: "12%",
        itemStyle: { color },
        barMaxWidth: 16,
      },
    ],
  });
  return () => chart.dispose();
}
