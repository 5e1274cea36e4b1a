import { expect, test } from "vitest";
import { nameAt } from "../query/categories";
import { LayerValues } from "../query/values";
import { modelOf } from "../testing/shown";
import type { Model } from "./model";

const SHEET = `still: 1
report: R
tables: {t: {rows: "k,a\\nu,1\\nu,2\\nv,3\\nv,4\\nv,5"}}
controls: {k: {pick: k, from: t, as: radio, only: [bars, list]}}
charts:
  dots: {from: t, draw: points, x: a, y: a}
  bars: {from: t, draw: bars, x: k, y: count()}
  list: {from: t, draw: table, columns: [a]}
  other: {from: t, draw: table, columns: [a]}
`;

function counts(model: Model): Record<string, number> {
  const found = model.rows.ofControl("k");
  const values = found && new LayerValues(found.answer, found.all);
  const [names, numbers] = [values?.get("key"), values?.numbers("n")];
  if (!names || !numbers) throw new Error("no counts");
  return Object.fromEntries([...numbers].map((n, group) => [String(nameAt(names, group)), n]));
}

/** Of a brush over the values 4 and 5, with some effects. */
function under(effects: string): Record<string, number> {
  const model = modelOf(`${SHEET}links:\n  - brush x on dots as near -> ${effects}\n`);
  model.engine.select("near", { x: [4, 6] });
  return counts(model);
}

test("values of a control are counted under what filters or fades a target of its own", () => {
  expect(under("filter list")).toEqual({ u: 0, v: 2 });
  expect(under("fade bars")).toEqual({ u: 0, v: 2 });
  expect(under("filter other, fade bars")).toEqual({ u: 0, v: 2 });
});

test("and not under what only highlights one, or is about others", () => {
  expect(under("highlight bars")).toEqual({ u: 2, v: 3 });
  expect(under("filter other")).toEqual({ u: 2, v: 3 });
  expect(under("highlight bars, filter other")).toEqual({ u: 2, v: 3 });
});
