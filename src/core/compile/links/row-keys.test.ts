import { describe, expect, test } from "vitest";
import { compileText } from "../../testing/compile-text";

/** The columns by which a press on rows of a table made by some steps is known; those above it have been run. */
function pickedBy(steps: string, above = "", from = "calls"): readonly string[] | undefined {
  const { plan, findings } = compileText(`still: 1
report: T
tables:
  calls:
    rows: |
      berth,cargo,tonnes
      North,coal,1
      North,grain,2
      South,coal,3
    steps: [${above}]
  made: {from: calls, steps: [${steps}]}
charts:
  one: {from: made, draw: table, columns: [berth]}
  every: {from: ${from}, draw: bars, x: berth, y: count()}
controls:
  least: {set: 0, as: slider, range: [0, 9]}
links:
  - rows on one -> filter all
`);
  expect(findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual([]);
  return plan.selections[0]?.by;
}

const GROUP = "{group: {by: [berth], get: {n: count()}}}";

describe("rows are known by what puts them together last", () => {
  test.each([
    ["a group", GROUP, ["berth"]],
    ["a group of two keys", "{group: {by: [berth, cargo], get: {n: count()}}}", ["berth", "cargo"]],
    ["one row each", "{unique: [berth]}", ["berth"]],
    ["what stands in its order, or leaves some", `${GROUP}, {sort: -n}, {keep: n > 0}, {first: 2}`, ["berth"]],
    ["a key with another name", `${GROUP}, {rename: {berth: quay}}, {add: {berth: quay}}`, ["quay"]],
    ["none where nothing is put together", "{sort: -tonnes}", []],
    ["none where the key is written over", `${GROUP}, {add: {berth: upper(berth)}}`, []],
    [
      "none where one becomes several",
      `${GROUP}, {add: {m: n}}, {unpivot: {columns: [n, m], name: what, value: v}}`,
      [],
    ],
  ])("%s", (_, steps, keys) => expect(pickedBy(steps)).toEqual(keys));
  test("rows of a table that is read are known by their numbers, unless a setting makes it anew", () => {
    expect(pickedBy("{sort: -tonnes}", "{unique: [berth, cargo]}")).toEqual([]);
    expect(pickedBy("{sort: -tonnes}", "{unique: [berth, cargo]}, {keep: tonnes > $least}")).toEqual([
      "berth",
      "cargo",
    ]);
  });
  test("rows of a table that nothing makes anew keep their numbers, and their keys stay at home", () => {
    expect(pickedBy(GROUP, "", "made")).toEqual([]);
  });
});
