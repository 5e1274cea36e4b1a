import { describe, expect, test } from "vitest";
import { compile } from "../compile/compile";
import { buildDashboard } from "../dashboard/build";
import { Model } from "../model/model";
import type { Plan } from "../plan/plan";
import { plainValue } from "../query/categories";
import type { Table } from "../table/table";
import { readDashboardFile } from "./dashboard-file";
import { reopened } from "./reopen";

const CSV = `who,day,at,took,done,n
a,2024-01-05,2024-01-05 10:00:30,1:02:03,true,1.25
"b, c",2024-02-06,1965-03-01 00:00:00,0:00:01,false,-3
d,,2024-03-07 11:00:00,,,
e,2024-04-01,2024-04-01 08:00:00,30:00:00,true,7
`;

const SHEET = (more = "") => `still: 1
report: R
# between authors
tables:
  t:
    read: t.csv
    columns: {took: {type: duration}, n: {label: Number, unit: kg}}
    steps:
      - keep: known(took) # canary
      - add: {twice: n * 2}
controls: {who: {pick: who, from: t}}
charts:
  list: {from: t, draw: table, columns: [who, day, at, took, done, n, twice]}
  sum: {from: t, draw: figure, value: sum(twice)}
${more}`;

const shown = (text: string, files: ReadonlyMap<string, Uint8Array>) => {
  const compiled = compile({
    text,
    fileName: "r",
    readFile: (path) => files.get(path),
    listFiles: () => [...files.keys()],
  });
  const model = new Model(compiled.plan, compiled.tables);
  const found = model.plainAnswer("sum");
  return {
    errors: compiled.findings.filter(({ severity }) => severity === "error"),
    tables: compiled.tables,
    sum: found?.answer.counts[0],
  };
};

/** All cells with the kinds of their columns. */
const plain = (table: Table | undefined) =>
  [...(table?.columns ?? [])].map(([name, column]) => [
    name,
    column.kind,
    Array.from({ length: table?.rowCount ?? 0 }, (_, row) => plainValue(column, row)),
  ]);

const files = new Map([["t.csv", new TextEncoder().encode(CSV)]]);
const written = (text: string) => {
  const { html = "", findings } = buildDashboard(
    { text, fileName: "r", readFile: (path) => files.get(path), listFiles: () => [...files.keys()] },
    { viewer: () => "" },
  );
  expect(findings.filter(({ severity }) => severity === "error")).toEqual([]);
  return html;
};

const open = (html: string) => {
  const file = readDashboardFile(html);
  return file && reopened(file, "r");
};

describe("a dashboard opened again", () => {
  test("is the same report over its tables as they were packed", () => {
    const again = open(written(SHEET()));
    if (!again) throw new Error("not opened");
    const { text, files: own } = again.project;
    expect(text).not.toContain("canary");
    expect(text).not.toContain("keep:");
    const [before, after] = [shown(SHEET(), files), shown(text, own)];
    expect(after.errors).toEqual([]);
    expect(plain(after.tables.get("t"))).toEqual(plain(before.tables.get("t")));
    expect(after.sum).toBe(before.sum);
    expect(again.notes).toEqual([
      "t is as it was packed, after its first 2 steps; to change those, the original file is needed",
    ]);
  });

  test("writes amounts and answers as they stood in the cells of the file", () => {
    files.set("v.csv", new TextEncoder().encode("member,paid,who\nYes,€3.50,a\nNo,€4.10,b\n"));
    const text = `still: 1
report: R
tables: {v: {read: v.csv}, w: {from: v, steps: [{sort: [who]}]}}
charts: {list: {from: w, draw: table, columns: [member, paid, who]}}
`;
    const again = open(written(text));
    expect(again?.project.text).toMatch(/member:.*boolean.*Yes\/No/s);
    expect(again?.project.text).toMatch(/paid:.*number.*€/s);
    const { plan } = compile({
      text: again?.project.text ?? "",
      fileName: "r",
      readFile: (path) => again?.project.files.get(path),
      listFiles: () => [...(again?.project.files.keys() ?? [])],
    });
    const piece = plan.pieces[0]?.plan;
    const [member, paid] = piece?.type === "table" ? Object.values(piece.query.channels) : [];
    expect([member?.format, paid?.unit]).toEqual(["Yes/No", "€"]);
  });

  test("keeps weekdays that a step made in their order", () => {
    const sheet = SHEET("  days: {from: t, draw: bars, x: falls, y: count()}\n");
    const again = open(written(sheet.replace("twice: n * 2", "twice: n * 2, falls: weekday(day)")));
    expect(again?.project.text).toContain("order: [Monday, Tuesday, Friday]");
    const { tables, errors } = shown(again?.project.text ?? "", again?.project.files ?? new Map());
    expect(errors).toEqual([]);
    expect(tables.get("t")?.info.get("falls")?.order).toEqual(["Monday", "Tuesday", "Friday"]);
  });

  test("speaks of its columns as it did, though steps gave them other names", () => {
    files.set("u.csv", new TextEncoder().encode("k,Breite\na,54.1\nd,54.2\n"));
    const text = `still: 1
report: R
tables:
  u: {read: u.csv, columns: {Breite: {unit: °, label: Latitude}}, steps: [{rename: {Breite: lat}}]}
  t:
    read: t.csv
    columns: {who: {label: Kind, colors: {a: "#8a1f6a"}}, n: {label: Weight, unit: kg, format: ",.2f"}}
    steps:
      - rename: {n: weight, who: kind}
      - join: {table: u, on: {kind: k}, get: {north: lat}}
charts:
  dots: {from: t, draw: points, x: north, y: weight, color: kind}
`;
    const wordsIn = ({ plan }: { plan: Plan }) => {
      const piece = plan.pieces[0]?.plan;
      const { x, y, color } = piece?.type === "chart" ? (piece.layers[0]?.query.channels ?? {}) : {};
      return [x, y, color].map((channel) => [channel?.label, channel?.unit, channel?.format]);
    };
    const file = readDashboardFile(written(text));
    const again = file && reopened(file, "r");
    if (!file || !again) throw new Error("not opened");
    const { plan, findings } = compile({
      text: again.project.text,
      fileName: "r",
      readFile: (path) => again.project.files.get(path),
    });
    expect(findings).toEqual([]);
    expect(wordsIn(file)).toEqual([
      ["Latitude", "°", undefined],
      ["Weight", "kg", ",.2f"],
      ["Kind", undefined, undefined],
    ]);
    expect(wordsIn({ plan })).toEqual(wordsIn(file));
    expect(plan.colors).toEqual(file.plan.colors);
  });
  test.each([
    ["by the columns that must be equal, where they were packed", "[ship, hours, kind]", "on: ship, get: []"],
    ["by the numbers of the rows, where they were not", "[hours, kind]", "get: []"],
  ])("ties tables that look one another up: %s", (_, columns, said) => {
    const sheet = `still: 1
report: R
tables:
  ships: {rows: [{ship: Ada, flag: red, tons: 1}, {ship: Bee, flag: blue, tons: 2}, {ship: Cod, flag: red, tons: 3}]}
  calls:
    rows: [{ship: Bee, hours: 3}, {ship: Ada, hours: 4}, {ship: none, hours: 5}, {ship: Ada, hours: 6}]
    steps:
      - join: {table: ships, on: ship, get: {kind: flag}}
charts:
  flags: {from: ships, draw: bars, x: flag, y: sum(tons)}
  list: {from: calls, draw: table, columns: ${columns}}
  ${columns.includes("ship") ? "names: {from: ships, draw: table, columns: [ship, flag]}" : ""}
links:
  - click on flags -> filter list
`;
    const listed = (text: string, own: ReadonlyMap<string, Uint8Array> = new Map()) => {
      const { plan, tables, findings } = compile({ text, fileName: "r", readFile: (path) => own.get(path) });
      expect(findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual([]);
      const model = new Model(plan, tables);
      model.engine.select("flags", { keys: [{ flag: "red" }] });
      const found = model.plainAnswer("list");
      return [...(found?.answer.counts ?? [])];
    };
    const again = open(written(sheet));
    const text = again?.project.text ?? "";
    expect(text).toContain(said);
    expect(text).not.toContain("get: {kind: flag}");
    expect(listed(text, again?.project.files)).toEqual(listed(sheet));
    expect(listed(sheet).filter((count) => count > 0)).toHaveLength(2);
  });
  test("reads a table that was made of another one where the columns of its steps, or that table, are not in the file", () => {
    files.set("v-2023.csv", new TextEncoder().encode("place,x,y\na,1,2\nb,3,4\n"));
    files.set("v-2024.csv", new TextEncoder().encode("place,x,y\na,5,6\n"));
    const sheet = `still: 1
report: R
tables:
  raw: {read: "v-*.csv", file_as: year}
  long: {from: raw, steps: [{unpivot: {columns: [x, y], name: party, value: votes}}]}
  u: {rows: [{k: a, n: 1, m: 10}, {k: a, n: 2, m: 20}, {k: b, n: 3, m: 30}]}
  wide: {from: u, steps: [{pivot: {by: [k], name: n, value: sum(m)}}]}
controls: {year: {pick: year, from: long}}
charts:
  sum: {from: long, draw: figure, value: sum(votes)}
  tall: {from: wide, draw: table}
  keys: {from: u, draw: table, columns: [k]}
`;
    const again = open(written(sheet));
    const text = again?.project.text ?? "";
    expect(text).not.toContain("v-*.csv");
    expect(text).toContain("long: {read: long.csv, columns: {year");
    const [before, after] = [shown(sheet, files), shown(text, again?.project.files ?? new Map())];
    expect(after.errors).toEqual([]);
    expect(after.sum).toBe(before.sum);
    expect(plain(after.tables.get("wide"))).toEqual(plain(before.tables.get("wide")));
    expect(again?.notes.join("; ")).toContain("long is as it was packed: what it was made of is not in the file");
  });
  test("has everything where all went along", () => {
    const again = open(written(SHEET("style: {tables: whole}\n")));
    expect(again?.project.text).toContain("keep: known(took) # canary");
    expect(again?.notes).toEqual(["t is whole, with all its rows and columns"]);
    const own = again && shown(again.project.text, again.project.files);
    expect(own?.errors).toEqual([]);
    expect(own?.tables.get("t")?.rowCount).toBe(3);
  });

  test("has what nothing speaks of too, where all went along", () => {
    const sheet = SHEET("style: {tables: whole}\n").replace(
      "controls:",
      "  idle: {from: t, steps: [{first: 2}]}\ncontrols:",
    );
    expect(open(written(sheet))?.project.text).toContain("idle: {from: t");
  });

  test("takes no path from a foreign file that leads elsewhere", () => {
    const html = written(SHEET());
    const block = (id: string, data: object) =>
      `<script type="application/json" id="${id}">${JSON.stringify(data)}</script>`;
    const foreign = `${block("pictures", { "../../a.png": "data:,", "b.png": "data:," })}${block("used", { "/etc/c.yaml": "tables: {}" })}`;
    const again = open(html.replace("</body>", `${foreign}</body>`));
    expect([...(again?.project.files.keys() ?? [])].sort()).toEqual(["as-written/r.yaml", "b.png", "t.csv"]);
  });

  test("cannot be without its sheet, and other files are none", () => {
    expect(open(written(SHEET("style: {sheet: leave_out}\n")))).toBeUndefined();
    expect(readDashboardFile("<html></html>")).toBeUndefined();
    const html = written(SHEET());
    expect(readDashboardFile(html.replace(/<template data-column>.{20}/, "<template data-column>"))).toBeUndefined();
  });
});
