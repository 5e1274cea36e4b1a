import { expect, test } from "vitest";
import { compile } from "../../core/compile/compile";
import { cellWriter } from "./looking";

const TEXT = `still: 1
report: R
tables:
  t:
    rows: |
      made,grams,share,call_id,done
      1802,1802,0.12345678,10234,yes
      1930,20000,,10235,no
charts: {c: {from: t, draw: table}}
`;

test("cells are shown with what their column says: years and numbers of orders unparted, others to their last place", () => {
  const table = compile({ text: TEXT, fileName: "t.still.yaml", readFile: () => undefined }).tables.get("t");
  if (!table) throw new Error("no table");
  expect(["made", "grams", "share", "call_id"].map((name) => cellWriter(table, name)(0))).toEqual([
    "1802",
    "1,802",
    "0.123457",
    "10234",
  ]);
  expect(cellWriter(table, "share")(1)).toBe("");
  expect([0, 1].map(cellWriter(table, "grams"))).toEqual(["1,802", "20,000"]);
});
