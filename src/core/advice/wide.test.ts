import { describe, expect, test } from "vitest";
import { wideColumns } from "./wide";

const numbers = (...names: string[]) => names.map((name) => ({ name, kind: "number" }));

describe("one measure in many columns", () => {
  test.each([
    [["2019", "2020", "2021", "2022"]],
    [["2024-01", "2024-02", "2024-03", "2024-04"]],
    [["Jan 24", "Feb 24", "Mar 24", "Apr 24"]],
    [["January", "February", "March", "April", "May"]],
    [["gene_1", "gene_2", "gene_3", "gene_10"]],
  ])("%j", (names) => {
    expect(
      wideColumns([{ name: "berth", kind: "text" }, ...numbers(...names), { name: "remarks", kind: "text" }]),
    ).toEqual(names);
  });
  test("few, different words, or values of different kinds are not", () => {
    expect(wideColumns(numbers("2019", "2020", "2021"))).toEqual([]);
    expect(wideColumns(numbers("weight", "tonnes", "waited", "alongside"))).toEqual([]);
    expect(wideColumns(numbers("berth1", "crane2", "lock3", "quay4"))).toEqual([]);
    expect(
      wideColumns([...numbers("2019", "2020"), { name: "2021", kind: "text" }, { name: "2022", kind: "text" }]),
    ).toEqual([]);
  });
  test("a few spoilt columns belong to the rest", () => {
    expect(wideColumns([...numbers("2019", "2020", "2021"), { name: "2022", kind: "text" }])).toEqual([
      "2019",
      "2020",
      "2021",
      "2022",
    ]);
  });
  test("of several families the largest", () => {
    expect(wideColumns(numbers("a1", "a2", "a3", "a4", "b1", "b2", "b3", "b4", "b5"))).toEqual([
      "b1",
      "b2",
      "b3",
      "b4",
      "b5",
    ]);
  });
});
