import { expect, test } from "vitest";
import { durationTicks, tickWriter } from "./tick-text";

test("ticks have the decimals that their step needs, whatever the column has", () => {
  const ticks = (step: number, columnFormat?: string) =>
    [27, 27 + step].map(tickWriter({ kind: "duration", scale: "linear", columnFormat }, step, 30));
  expect(ticks(0.5)).toEqual(["0:00:27.0", "0:00:27.5"]);
  expect(ticks(0.5, "m:ss.00")).toEqual(["0:27.0", "0:27.5"]);
  expect(ticks(1, "m:ss.00")).toEqual(["0:27", "0:28"]);
  expect(ticks(60, "h:mm:ss")).toEqual(["0:00:27", "0:01:27"]);
});

test("one tick alone says no scale: the next smaller step is taken", () => {
  expect(durationTicks(20, 40, 2)).toEqual([20, 30, 40]);
  expect(durationTicks(22, 39, 2)).toEqual([25, 30, 35]);
  expect(durationTicks(0.1, 0.62, 3)).toEqual([0.2, 0.4, 0.6]);
  expect(durationTicks(0, 7200, 4)).toEqual([0, 1800, 3600, 5400, 7200]);
});
