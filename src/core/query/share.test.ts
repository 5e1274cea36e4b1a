import { expect, test } from "vitest";
import { modelOf, shown } from "../testing/shown";

const TABLE = `still: 1
report: R
tables:
  t: {rows: "w,z,a,n\\nx,u,p,1\\nx,u,q,3\\ny,u,p,2\\ny,v,q,2\\ny,v,r,4"}
`;

/** Shares by their keys, as written. */
const shares = (chart: string, more = "") =>
  Object.fromEntries(
    shown(modelOf(`${TABLE}charts: {c: {from: t, draw: bars, ${chart}}}\n${more}`), "c").map((line) => {
      const [x, y, ...keys] = JSON.parse(line) as [string, number, ...string[]];
      return [[x, ...keys].join(" "), Math.round(y * 1000) / 1000];
    }),
  );

test("a share is of the whole chart where there is one", () => {
  expect(shares("x: a, y: share(sum(n))")).toEqual({ p: 0.25, q: 0.417, r: 0.333 });
});

test("a share is of its panel's whole, in a list of panels and in rows and columns of them", () => {
  expect(shares("x: a, y: share(sum(n)), panels: w")).toEqual({
    "p x": 0.25,
    "q x": 0.75,
    "p y": 0.25,
    "q y": 0.25,
    "r y": 0.5,
  });
  expect(shares("x: a, y: share(count()), panels: {across: w, down: z}")).toEqual({
    "p x u": 0.5,
    "q x u": 0.5,
    "p y u": 1,
    "q y v": 0.5,
    "r y v": 0.5,
  });
});

test("parts of a colour in one panel make up the whole together", () => {
  expect(shares("x: a, y: share(sum(n)), color: z, panels: w")).toMatchObject({ "p u y": 0.25, "r v y": 0.5 });
});

test("of all too, a share is of its panel", () => {
  const picked = "controls: {a: {pick: a, from: t, start: [p]}}\n";
  expect(shares("x: a, y: share(sum(n)) of all, panels: w", picked)).toEqual({ "p x": 0.25, "p y": 0.25 });
  expect(shares("x: a, y: share(sum(n)), panels: w", picked)).toEqual({ "p x": 1, "p y": 1 });
});
