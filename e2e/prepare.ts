import { spawnSync } from "node:child_process";
import { copyFileSync, mkdirSync, readdirSync, writeFileSync } from "node:fs";

export const OUT = ".build/e2e-out";

/** Runs the terminal as a user does. */
export function still(...args: string[]) {
  return spawnSync("./still", args, { encoding: "utf8" });
}

const HOSTILE = [
  "</script><script>window.ran = 1</script>",
  '<img src=x onerror="window.ran = 2">',
  `"double" 'single' \`back\``,
  "line\u2028separator\u2029here",
  "\u202eright to left\u202c",
  "<!-- comment",
  "]]> & &amp; &lt;",
  "x".repeat(100_000),
];

/** The small reports, built beside the others by one run of the terminal. */
function buildExamples() {
  const sheets: string[] = [];
  for (const folder of readdirSync("examples", { withFileTypes: true })) {
    if (!folder.isDirectory() || folder.name === "quay-calls" || folder.name === "make") continue;
    for (const file of readdirSync(`examples/${folder.name}`)) {
      copyFileSync(`examples/${folder.name}/${file}`, `${OUT}/${file}`);
      if (file.endsWith(".still.yaml")) sheets.push(`${OUT}/${file}`);
    }
  }
  const built = still("build", ...sheets);
  if (built.status !== 0) throw new Error(built.stderr);
}

/** Builds the dashboards that the tests open from disk. */
export default function prepare() {
  // The second of two runs finds them as the first has built them.
  if (process.env.STILL_E2E_PREPARED === "1") return;
  mkdirSync(OUT, { recursive: true });
  for (const name of ["quay", "quay-again"]) {
    const built = still("build", "examples/quay-calls/quay-calls.still.yaml", "-o", `${OUT}/${name}.html`);
    if (built.status !== 0) throw new Error(built.stderr);
  }
  buildExamples();
  const rows = HOSTILE.map((text, n) => `"${text.replaceAll('"', '""')}",${n + 1},${n % 3}`).join("\n");
  writeFileSync(`${OUT}/hostile.csv`, `name,n,<b>k</b>\n${rows}\n`);
  writeFileSync(
    `${OUT}/hostile.still.yaml`,
    `still: 1
report: '</title><script>window.ran = 3</script>'
about: '<img src=x onerror="window.ran = 4"> [press](javascript:window.ran=5)'
tables: {t: {read: hostile.csv, columns: {name: {label: '<i>Name</i>'}}}}
controls: {name: {pick: name, from: t, as: checkboxes}}
charts:
  bars: {from: t, draw: bars, y: name, x: sum(n), color: name, title: '<h1 onclick="window.ran = 6">Bars</h1>'}
  list: {from: t, draw: table, columns: [name, n, '\`<b>k</b>\`']}
links: [click on bars -> filter all]
`,
  );
  writeFileSync(
    `${OUT}/kinds.still.yaml`,
    `still: 1
report: Kinds
tables:
  t:
    rows: |
      k,c,v,w,d
      a,x,1,10,2024-01-10
      a,y,2,20,2024-01-20
      b,x,5,30,2024-03-01
      b,x,4,40,2024-03-02
      c,,3,50,2024-04-09
      ,y,6,60,2024-04-10
controls:
  k: {pick: k, from: t, as: menu}
  half: {set: 2, as: slider, range: [1, 6]}
  how: {set: month, as: menu, of: [month, year]}
charts:
  dots: {from: t, draw: points, x: v, y: w, color: c}
  bins: {from: t, draw: bars, x: "bin(v, $half)", y: count()}
  time: {from: t, draw: line, x: "by($how, d)", y: sum(v)}
  groups: {from: t, draw: bars, y: k, x: mean(v)}
  rows: {from: t, draw: table, columns: [k, v, w], page: [2, all]}
  total: {from: t, draw: figure, value: median(v), against: median(v) of all}
links:
  - brush xy on dots -> filter all
  - click on groups -> fade 0.2 bins, filter rows
  - rows on rows -> filter total
pages:
  - page: First
    side: [k, half, how]
    columns: 1fr 1fr
    rows: 90px 1fr 1fr
    grid: |
      total total
      dots bins
      groups rows
  - page: Second
    grid: time
`,
  );
  writeFileSync(
    `${OUT}/open-sales.csv`,
    "shop,day,amount,till\na,2025-01-05,10,1\nb,2025-02-05,20,2\nb,2025-02-06,5,1\n",
  );
  writeFileSync(
    `${OUT}/open.still.yaml`,
    `still: 1
report: Open
tables:
  sales:
    read: open-sales.csv
    steps:
      - keep: amount > 1
      - join: {table: shops, on: shop, get: [town]}
  shops:
    rows: |
      shop,town
      a,Eastby
      b,Westby
charts:
  towns: {from: sales, draw: bars, y: town, x: sum(amount), color: town}
  days: {from: sales, draw: bars, x: by_month(day), y: sum(amount)}
  list: {from: sales, draw: table, columns: [shop, day, amount, town]}
links: ["click on towns -> filter days, list"]
style: {open: true}
`,
  );
  writeFileSync(
    `${OUT}/ways.still.yaml`,
    `still: 1
report: Ways
about: A second sheet of *small* things.
tables:
  t:
    rows: |
      k,c,v,w,d,open
      a,x,1,10,2024-01-10 08:00,true
      a,y,2,20,2024-01-20 09:30,false
      b,x,5,30,2024-03-01 23:59,true
      b,x,4,40,2024-03-02 00:00,true
      c,,3,50,2024-04-09 12:00,false
      ,y,6,60,2024-04-10 12:00,
    columns:
      w: {label: Weight, unit: kg}
      k: {order: [c, a, b]}
  large:
    from: t
    steps:
      - keep: w >= 20
      - group: {by: [k], get: {n: count(), most: max(w)}}
controls:
  c: {pick: c, from: t, none: nothing, start: [x]}
  when: {pick: d, from: t, as: range}
charts:
  faded: {from: t, draw: bars, y: k, x: count(), color: c, legend: {press: fade, at: bottom}}
  beside: {from: t, draw: bars, x: k, y: mean(v), color: c}
  shares: {from: t, draw: bars, x: k, y: count(), color: c, stacking: percent}
  log: {from: t, draw: points, x: v, y: w, axes: {y: {scale: log}, x: {reverse: true}}, title: On a log axis, subtitle: reversed, hint: Drag upwards, credit: Made up}
  line: {from: t, draw: line, x: by_month(d), y: sum(w)}
  days: {from: t, draw: points, x: d, y: w}
  grouped: {from: large, draw: table, columns: [k, n, most]}
  flags: {from: t, draw: bars, x: open, y: count(), sort: {x: ["true"]}}
links:
  - brush y on log -> fade 0.3 line, filter grouped
  - hover x on line -> crosshair days, line
  - legend on faded -> filter days
  - click on flags as opened -> filter beside
pages:
  - page: Ways
    height: content
    side: [c, when]
    columns: 1fr 1fr
    rows: 260px 260px 260px 260px
    grid: |
      faded beside
      shares log
      line days
      grouped flags
`,
  );
  const days = Array.from(
    { length: 60 },
    (_, n) =>
      `2024-01-${String((n % 28) + 1).padStart(2, "0")},${n % 9 === 0 ? "" : n},${n % 2 ? "-0" : "0"},${["=1+2", "+a", "plain"][n % 3]},${"abc"[n % 3]}`,
  );
  writeFileSync(
    `${OUT}/trusted.still.yaml`,
    `still: 1
report: Trusted
tables:
  t:
    rows: |
      d,v,z,note,k
${days.map((line) => `      ${line}`).join("\n")}
controls:
  among: {pick: v, from: t, as: range}
charts:
  page: {from: t, draw: bars, x: k, y: count()}
  weekly: {from: t, draw: bars, x: by_week(d), y: count()}
  dots: {from: t, draw: points, x: d, y: v}
  list: {from: t, draw: table, columns: [d, v, z, note, k], page: [10, all]}
  zeros: {from: t, draw: table, columns: [z, count()]}
links:
  - click on page -> filter list
  - brush x on weekly -> filter list
  - brush x on dots -> filter weekly
  - rows on zeros by z -> filter list
pages:
  - page: One
    side: [among]
    columns: 1fr 1fr
    rows: 1fr 1fr
    grid: |
      page weekly
      dots list
  - page: Two
    grid: zeros
`,
  );
  writeFileSync(
    `${OUT}/rerun.still.yaml`,
    `still: 1
report: Run again
tables:
  t:
    rows: |
      shop,kind,n,year
      a,x,9,2017
      b,x,8,2018
      b,y,1,2018
      c,y,5,2019
  totals:
    from: t
    steps: [{group: {by: [shop], get: {n: sum(n)}}}]
  best:
    from: totals
    steps: [{sort: -n}, {first: 2}]
controls:
  year: {pick: year, from: t, as: checkboxes, start: [2018, 2019]}
charts:
  kinds: {from: t, draw: bars, y: kind, x: sum(n)}
  list: {from: totals, draw: table, columns: [shop, n]}
  best_shops: {from: best, draw: bars, y: shop, x: sum(n)}
  below: {from: t, draw: table, columns: [shop, n]}
links:
  - click on kinds -> filter list, best_shops
  - rows on list -> filter below
  - hover on best_shops -> filter below
  - hover on below as pointed -> fade 0.2 kinds
`,
  );
  writeFileSync(
    `${OUT}/waits.still.yaml`,
    `still: 1
report: Waits
tables:
  t: {rows: "k,v\\na,1\\na,2\\nb,5\\nb,4\\nc,3\\nc,6\\n"}
controls:
  least: {pick: v, from: t, as: at_least}
  go: {button: Go, does: apply, to: [least]}
  mark: {set: bars, as: menu, of: [bars, points]}
  scale: {set: linear, as: menu, of: [linear, log]}
charts:
  bars: {from: t, draw: bars, x: k, y: sum(v), color: k}
  total: {from: t, draw: figure, value: sum(v)}
  free: {from: t, draw: $mark, x: k, y: sum(v), axes: {y: {scale: $scale}}}
  rows: {from: t, draw: table, wait_for: least, empty: Say how much}
  most: {from: t, draw: figure, value: max(v), wait_for: least}
links:
  - legend on bars -> filter total
  - hover x on free -> filter total
pages:
  - page: Waits
    side: [least, go, mark, scale]
    columns: 1fr 1fr
    grid: |
      bars total
      free free
      rows most
`,
  );
  writeFileSync(
    `${OUT}/crowd.still.yaml`,
    `still: 1
report: Crowd
tables:
  t:
    make: {rows: 30000, seed: 3}
    steps:
      - add:
          n: row()
          x: normal(0, 1)
          y: normal(0, 1) + x / 2
          z: uniform(0, 100)
          kind: if(mod(n, 3) = 0, "third", "other")
controls:
  area: {set: 9, as: slider, range: [4, 60]}
charts:
  over: {from: t, draw: bars, x: "bin(z, 50)", y: count()}
  kinds: {from: t, draw: points, x: x, y: y, color: kind, size: $area}
  faint: {from: t, draw: points, x: x, y: z}
links:
  - brush x on over -> filter kinds, fade faint
`,
  );
  const sheets = ["waits", "crowd", "hostile", "kinds", "ways", "trusted", "rerun", "open"];
  const all = still("build", ...sheets.map((name) => `${OUT}/${name}.still.yaml`));
  if (all.status !== 0) throw new Error(all.stderr);
}
