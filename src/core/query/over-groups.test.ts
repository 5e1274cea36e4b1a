import { expect, test } from "vitest";
import type { Model } from "../model/model";
import { valueAt } from "../table/column";
import { modelOf } from "../testing/shown";
import { LayerValues } from "./values";

const model = modelOf(`still: 1
report: R
tables: {t: {rows: "shop,d,n\\na,2024-01-05,5\\nb,2024-01-06,3\\nb,2024-03-06,4\\nc,2024-02-07,9\\nd,2024-03-08,1"}}
controls: {shop: {pick: shop, from: t, as: checkboxes}}
charts:
  list: {from: t, draw: table, columns: [shop, sum(n) as n, rank(sum(n)) as r, previous(sum(n)) as before]}
  months: {from: t, draw: line, x: by_month(d), y: sum(n) - previous(sum(n))}
`);

/** The rows of the list that pass, each as its cells. */
function rowsOf(own: Model) {
  const found = own.plainAnswer("list");
  if (!found) throw new Error("no list");
  const values = new LayerValues(found.answer, found.all);
  const columns = Object.keys(found.answer.prepared.query.channels).map((name) => values.get(name));
  const ids = [...found.answer.counts.keys()].filter((id) => found.answer.counts[id]);
  return ids.map((id) => columns.map((column) => column && valueAt(column, id)));
}

test("a row function goes over the groups that are there, whatever is left out", () => {
  expect(rowsOf(model)).toEqual([
    ["a", 5, 2, null],
    ["b", 7, 3, 5],
    ["c", 9, 4, 7],
    ["d", 1, 1, 9],
  ]);
  model.engine.select("shop", { keys: [{ shop: "a" }, { shop: "c" }] });
  expect(rowsOf(model)).toEqual([
    ["a", 5, 1, null],
    ["c", 9, 2, 5],
  ]);
  model.engine.select("shop", undefined);
});

test("and over periods between others, which are there without rows", () => {
  model.engine.select("shop", { keys: [{ shop: "b" }] });
  const layer = model.chartInput("months", 400, 300, new Set())?.layers[0];
  if (!layer) throw new Error("no chart");
  const values = new LayerValues(layer.current, layer.all);
  const [x, y] = [values.numbers("x"), values.numbers("y")] as [Float64Array, Float64Array];
  const ids = [...x.keys()].sort((one, other) => (x[one] as number) - (x[other] as number));
  expect(ids.map((id) => y[id])).toEqual([Number.NaN, -3, 4]);
  model.engine.select("shop", undefined);
});
