import { expect, test } from "vitest";
import type { TableSpec } from "../sheet/schema-tables";
import { ColumnWords } from "./column-words";

const spec = (own: Partial<TableSpec>): TableSpec => own as TableSpec;

test("words follow a column through steps, to tables made of its own and to those that look it up", () => {
  const words = new ColumnWords(
    new Map([
      [
        "a",
        spec({
          columns: { v: { unit: "kg" }, k: "text" },
          steps: [{ rename: { v: "weight" } }, { rename: { k: "key" } }],
        }),
      ],
      ["b", spec({ from: "a", columns: { weight: { label: "Weight" } } })],
      ["c", spec({ read: "c.csv", steps: [{ join: { table: "b", on: "key", get: { heavy: "weight" } } }] })],
    ]),
  );
  expect(words.of("a").get("weight")).toEqual({ unit: "kg" });
  expect(words.after("a", 0).get("weight")).toBeUndefined();
  expect(words.of("c").get("heavy")).toEqual({ unit: "kg", label: "Weight" });
  expect(words.of("nobody").size).toBe(0);
});

test("a file from elsewhere whose tables lead to one another in many ways, or in a circle, is gone through once", () => {
  const many = Array.from({ length: 60 }, (_, at): [string, TableSpec] => [
    `t${at}`,
    spec({ from: `t${at - 1}`, steps: [{ join: { table: `t${at - 1}`, on: "k", get: ["v"] } }] }),
  ]);
  const around: [string, TableSpec] = ["t-1", spec({ from: "t59", columns: { v: { unit: "kg" } } })];
  expect(new ColumnWords(new Map([...many, around])).of("t59").get("v")).toEqual({ unit: "kg" });
});
