import { describe, expect, test } from "vitest";
import { compileText } from "../testing/compile-text";

const sheet = (editions: string) => `still: 1
report: Shops
tables:
  sales:
    rows: |
      Laden,amount
      b,2
      a,1
      ,4
    steps:
      - rename: {Laden: shop}
      - add: {size: 'if(amount > 1, "large", "small")'}
  others:
    rows: |
      amount,town
      1,Eastby
charts: {c: {from: sales, draw: bars, y: shop, x: sum(amount)}}
editions: ${editions}
`;
const planned = (editions: string) => compileText(sheet(editions));
const errors = (editions: string) =>
  planned(editions)
    .findings.filter(({ severity }) => severity === "error")
    .map(({ message }) => message);

describe("editions", () => {
  test("are told apart by a column as it is read, by its name there or the one that a step gives it", () => {
    const files = [
      { table: "sales", column: "Laden", value: "a", rows: 1, file: "a.html" },
      { table: "sales", column: "Laden", value: "b", rows: 1, file: "b.html" },
    ];
    for (const by of ["Laden", "shop", "sales.Laden", "sales.shop"])
      expect(planned(`{by: ${by}}`).editions, by).toEqual({ files, index: true });
  });
  test("are named by a pattern with either name", () => {
    const names = (editions: string) => planned(editions).editions?.files.map(({ file }) => file);
    expect(names('{by: shop, file: "Shop {shop}"}')).toEqual(["Shop-a.html", "Shop-b.html"]);
    expect(names('{by: shop, file: "{Laden}"}')).toEqual(["a.html", "b.html"]);
    expect(errors('{by: shop, file: "one for all"}')).toEqual(['file: names each edition by its value: "{shop}"']);
    expect(errors('{by: shop, file: "{amount}"}')).toEqual(['file: names each edition by its value: "{shop}"']);
  });
  test("say what cannot tell them apart", () => {
    expect(errors("{by: size}")).toEqual([
      '"size" is made by a step of sales; editions are told apart by a column as it is read',
    ]);
    expect(errors("{by: amount}")).toEqual(['sales, others have a column "amount"; write TABLE.amount']);
    const switchedOff = compileText(sheet("{by: shop}").replace("{Laden: shop}", "{Laden: shop}\n        off: true"));
    expect(switchedOff.editions).toBeUndefined();
    expect(errors("{by: twn}")).toEqual(['no table is read with a column "twn"; did you mean town?']);
  });
  test("say how many rows are in none", () => {
    const { findings } = planned("{by: shop}");
    expect(findings.filter(({ code }) => code === "rows-without-edition")).toMatchObject([
      {
        severity: "warning",
        message: "1 row of sales has no shop before the steps of the table, and is in no edition",
      },
    ]);
  });
});
