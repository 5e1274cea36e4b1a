import { writeFileSync } from "node:fs";
import { OUT } from "./prepare";

/** A report with all that a reader can do beside picking: looking closer, tabs, views, outlines, lists. */
export function writeCloser() {
  const rows = Array.from({ length: 60 }, (_, n) => {
    const day = `2024-0${(n % 6) + 1}-1${n % 10}`;
    return `      s${n},${["Otter", "Heron", "Gull"][n % 3]},${(n * 7) % 50},${(n * 13) % 40},${day}\n`;
  }).join("");
  writeFileSync(
    `${OUT}/closer.still.yaml`,
    `still: 1
report: Soundings
# a canary between authors
tables:
  soundings:
    label: soundings taken
    rows: |
      id,ship,depth,speed,day
${rows}    steps:
      - keep: depth >= 0
        why: Below the surface alone
controls:
  keys: {set: [ship], of: [ship, day], label: Grouped by}
charts:
  dots: {from: soundings, draw: points, x: depth, y: speed, identity: id, carry: [day], tooltip: "{ship} at {depth} m", credit: Made up}
  ships: {from: soundings, draw: bars, y: ship, x: count(), color: ship}
  months: {from: soundings, draw: line, x: by_month(day), y: sum(depth)}
  sums: {from: soundings, draw: bars, x: ship, y: sum(depth), title: none}
  list: {from: soundings, draw: table, columns: [id, ship, depth], identity: id}
  grouped: {from: soundings, draw: table, columns: [$keys, count()]}
  n: {from: soundings, draw: figure, value: count()}
links:
  - lasso on dots as around -> filter n, list
  - {link: click on ships -> filter all, start: Heron}
  - brush y on sums -> filter n
  - rows on list -> filter months
views: {"Deep Otters": "#ships=ship:Otter&dots.zoom=x:20..50", Everything: "#ships=~none"}
pages:
  - page: One
    side: [keys]
    columns: 1fr 1fr
    rows: 1fr 1fr
    grid: |
      dots detail
      ships sums
    areas: {detail: {tabs: [months, pair]}, pair: {stack: [list, grouped]}}
  - page: Two
    grid: n
style: {accent: "#7a1f6b", fade: 0.3, numbers: {decimal: ",", thousands: " "}}
`,
  );
}
