import { expect, test } from "vitest";
import { compileText } from "../testing/compile-text";
import { fineLengths } from "./fine-lengths";

const formatOf = (cells: string[], columns = "") => {
  const rows = cells.map((cell, at) => `${at},${cell}`).join("\\n");
  const sheet = `still: 1\nreport: R\ntables: {t: {rows: "n,time\\n${rows}"${columns}}}\n`;
  const { plan, findings } = compileText(`${sheet}charts: {c: {from: t, draw: table, columns: [time]}}\n`);
  expect(findings.filter(({ severity }) => severity === "error")).toEqual([]);
  const piece = plan.pieces[0]?.plan;
  return piece?.type === "table" ? piece.query.channels[piece.columns[0]?.channel ?? ""]?.format : "no table";
};

test("lengths with parts of a second are written with them", () => {
  expect(formatOf(["0:57.12", "1:02.4", "0:59"])).toBe("m:ss.00");
  expect(formatOf(["1:00:57.5", "0:01:02"])).toBe("h:mm:ss.0");
  expect(formatOf(["0:57", "1:02"])).toBeUndefined();
});

test("what the sheet says goes before", () => {
  expect(formatOf(["0:57.12", "1:02.4"], ', columns: {time: {type: duration, format: "h:mm:ss"}}')).toBe("h:mm:ss");
});

test("decimals that a float leaves are none, and three are the most", () => {
  expect(fineLengths(Float64Array.of(0.1 + 0.2, Number.NaN))).toEqual({ format: "m:ss.0" });
  expect(fineLengths(Float64Array.of(1 / 3))).toEqual({ format: "m:ss.000" });
  expect(fineLengths(Float64Array.of(90, 4000))).toBeUndefined();
});
