"use client";

import { BarChart } from "echarts/charts";
import { GridComponent } from "echarts/components";
import { type EChartsType, init, use as register } from "echarts/core";
import { CanvasRenderer } from "echarts/renderers";
import { useEffect, useRef } from "react";
import { useDeskState } from "../desk/desk-context";

register([BarChart, GridComponent, CanvasRenderer]);

/** How a column's values lie, as small as a word. */
export function Distribution({
  bars,
  width,
  height,
  label,
  lit,
}: {
  bars: readonly number[];
  width: number;
  height: number;
  label: string;
  lit?: readonly [number, number] | undefined;
}) {
  const host = useRef<HTMLDivElement>(null);
  const ground = useDeskState((state) => state.ground);
  const drawn = bars.join();
  const [from, to] = lit ?? [-1, -1];
  // biome-ignore lint/correctness/useExhaustiveDependencies: the ground decides the colour that is read from the page.
  useEffect(() => {
    if (!host.current || width < 4) return;
    const chart: EChartsType = init(host.current, null, { width, height });
    const style = getComputedStyle(document.documentElement);
    const [color, brushed] = [style.getPropertyValue("--bars").trim(), style.getPropertyValue("--brass").trim()];
    chart.setOption({
      animation: false,
      grid: { left: 0, right: 0, top: 0, bottom: 0 },
      xAxis: { type: "category", show: false, data: drawn.split(",").map((_, at) => at) },
      yAxis: { type: "value", show: false, min: 0 },
      series: [
        {
          type: "bar",
          silent: true,
          data: drawn
            .split(",")
            .map((bar, at) =>
              at >= from && at <= to ? { value: Number(bar), itemStyle: { color: brushed } } : Number(bar),
            ),
          barCategoryGap: "12%",
          itemStyle: { color },
          barMaxWidth: 16,
        },
      ],
    });
    return () => chart.dispose();
  }, [drawn, width, height, ground, from, to]);
  return <div ref={host} role="img" aria-label={label} style={{ width, height }} />;
}
