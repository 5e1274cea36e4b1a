import fc from "fast-check";

/** Reports in which some step follows a setting, beside steps of every kind. */

const ROWS =
  '"c,g,n,w,d,txt\\na,x,1,2,2024-01-03,one two\\na,y,2,3,2024-02-03,two\\nb,x,3,,2024-02-09,three\\nz,y,9,1,2024-05-03,\\nb,y,5,4,2024-07-03,one"';

/** Steps of every kind, one or two of which stand beside one that follows a setting. */
const STEPS = [
  "keep: known(w)",
  "keep: n > mean(n)",
  "add: {q: n * 2}",
  "add: {q: running_total(n)}",
  "only: [c, g, n, w]",
  "drop: [d, txt]",
  "rename: {w: ww}",
  "unique: [c]",
  "sort: [-n]",
  "group: {by: [c, g], get: {n: sum(n), w: mean(w)}}",
  "first: 3",
  "sample: {rows: 3, seed: 7}",
  "unpivot: {columns: [n, w], name: what, value: n}",
  "pivot: {by: [c], name: g, value: sum(n)}",
  "join: {table: k, on: c, get: [town, beds]}",
  "join: {table: k, on: c, get: [town, beds], unmatched: drop}",
  "stack: [s]",
  "fill: {w: 0}",
  "fill_forward: [w]",
  "words: {of: txt}",
  "smooth: {x: n, y: w, span: 0.9}",
  "density: {of: n}",
];
const FOLLOWING = [
  "keep: n > $limit",
  "first: $limit",
  "add: {z: n + $limit}",
  "keep: row() > $limit",
  "join: {table: kk, on: c, get: [town2, beds2]}",
  "join: {table: kk, on: c, get: [town2, beds2], unmatched: drop}",
  "stack: [ss]",
];

export const chainSheet = (steps: readonly string[], isDerived: boolean, limit: number, chart: string) => `still: 1
report: R
tables:
${isDerived ? `  t0: {rows: ${ROWS}}\n  t:\n    from: t0` : `  t:\n    rows: ${ROWS}`}
    steps:
${steps.map((step) => `      - ${step}`).join("\n")}
  k: {rows: "c,town,beds\\na,X,2\\nb,Y,4"}
  k0: {rows: "c,town2,beds2\\na,X,2\\nb,Y,4"}
  kk: {from: k0, steps: [keep: beds2 > $limit]}
  s: {rows: ${ROWS}}
  ss: {from: s, steps: [keep: n > $limit]}
controls: {limit: {set: ${limit}, as: slider, range: [0, 9]}}
charts:
  one: {from: t, draw: table${chart}}
  look: {from: k, draw: bars, x: c, y: count()}
links: [click on look -> filter all]
`;

export const settingChains = fc.record({
  steps: fc
    .tuple(fc.array(fc.constantFrom(...STEPS), { maxLength: 2 }), fc.constantFrom(...FOLLOWING), fc.nat(2))
    .map(([own, following, at]) => own.toSpliced(Math.min(at, own.length), 0, following)),
  isDerived: fc.boolean(),
  column: fc.nat(9),
  limit: fc.constantFrom(0, 1, 2, 3, 9),
  picks: fc.boolean(),
});
