import { readdirSync, readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { workbooks } from "../../viewer/open/workbooks";
import type { Compiled } from "../compile/compile";
import { partsOf } from "../dashboard/parts";
import { withGivenRows } from "../model/given-rows";
import { Model } from "../model/model";
import { readGivenFile, readGivenRows } from "../model/read-given";
import type { OpenTable } from "../plan/plan";
import type { Answer } from "../query/answer";
import { channelValues } from "../query/values";
import { type Column, valueAt } from "../table/column";
import type { Table } from "../table/table";
import { compileFiles, compileText } from "./compile-text";
import { cases, sheetOf, spreadsNothing } from "./reference-cases";
import { expectSame } from "./same";
import { textCell, workbook } from "./workbook";

type Files = Record<string, Uint8Array | string>;

/** What every piece of a report shows, as values by channel in groups or rows that are there, in their order. */
function shown({ plan, tables }: Pick<Compiled, "plan" | "tables">): unknown {
  const model = new Model(plan, tables);
  const pieces = plan.pieces.map(({ name }) => [
    name,
    answersOf(model, name).map(([answer, all]) => {
      const there = [...answer.counts.keys()].filter((group) => answer.counts[group]);
      return Object.keys(answer.prepared.query.channels).map((channel) => {
        const column = channelValues(channel, answer, all);
        return [channel, there.map((group) => valueAt(column, group))];
      });
    }),
  ]);
  return { pieces, counts: model.counts(), colors: plan.colors };
}

/** What a piece was answered: a chart of its first categories of these alone. */
function answersOf(model: Model, name: string): [Answer, Answer][] {
  const input = model.chartInput(name, 480, 300, new Set());
  if (!input) return model.askedBy(name).map((asked) => [model.engine.answer(asked), model.engine.all(asked)]);
  return [
    ...input.layers.map(({ current, all }): [Answer, Answer] => [current, all]),
    ...Object.values(input.sorts).map(({ left, all }): [Answer, Answer] => [left, all]),
  ];
}

/** Lines that may be titles and heads. */
const HEAD = 8;

/** A text file with every third row left out. */
function thinned(text: string): string {
  const lines = text.trimEnd().split("\n");
  return lines.filter((_, at) => at < HEAD || at % 3 !== 1).join("\n");
}

const given = (name: string, opened: OpenTable, file: string, bytes: Uint8Array): Table => {
  const rows = readGivenFile(name, opened, file, bytes);
  if ("problem" in rows) throw new Error(rows.problem);
  return rows.table;
};

const opening = (text: string) =>
  text.includes("{open: true}")
    ? text
    : /^style:/m.test(text)
      ? text.replace(/^style:\s*(\{)?/m, (all, brace) => (brace ? "style: {open: true, " : `${all}\n  open: true`))
      : `${text}\nstyle: {open: true}\n`;

const reports = readdirSync("examples", { withFileTypes: true })
  .filter((folder) => folder.isDirectory())
  .flatMap(({ name }) =>
    readdirSync(`examples/${name}`)
      .filter((file) => file.endsWith(".still.yaml"))
      .map((file) => [name, file] as const),
  );

describe("with style: {open: true}", () => {
  test.each(reports)(
    "%s/%s shows the same; of other rows it shows what a build from them shows",
    async (folder, sheet) => {
      const files: Files = Object.fromEntries(
        readdirSync(`examples/${folder}`).map((name) => [
          name,
          new Uint8Array(readFileSync(`examples/${folder}/${name}`)),
        ]),
      );
      const text = readFileSync(`examples/${folder}/${sheet}`, "utf8").replace(/^editions:.*\n(?: .*\n)*/m, "");
      const opened = await compileFiles(opening(text), files);
      expect(opened.findings.filter(({ severity }) => severity === "error")).toEqual([]);
      expectSame(shown(opened), shown(await compileFiles(text, files)));
      const fewer = { ...files };
      if (!opened.plan.opens) return;
      const rows = new Map<string, Table>();
      for (const [name, open] of Object.entries(opened.plan.opens?.tables ?? {})) {
        if (!open.file?.endsWith(".csv")) continue;
        const other = thinned(new TextDecoder().decode(files[open.file] as Uint8Array));
        fewer[open.file] = other;
        rows.set(name, given(name, open, open.file, new TextEncoder().encode(other)));
      }
      expectSame(shown(withGivenRows(opened.plan, opened.tables, rows)), shown(await compileFiles(text, fewer)));
    },
  );
});

test("any small report that is given the rows of another shows what a build from those shows", {
  timeout: 600_000,
}, () => {
  fc.assert(
    fc.property(cases, cases, fc.boolean(), (one, other, withLooked) => {
      const built = { ...one, rows: other.rows, looked: withLooked ? other.looked : one.looked };
      fc.pre(!spreadsNothing(one) && !spreadsNothing(built));
      const opened = compileText(`${sheetOf(one)}style: {open: true}\n`);
      expectSame(shown(opened), shown(compileText(sheetOf(one))));
      const put = (name: string, rows: readonly object[]): [string, Table] => {
        const read = readGivenRows(name, opened.plan.opens?.tables[name] as OpenTable, rows);
        if ("problem" in read) throw new Error(read.problem);
        return [name, read.table];
      };
      const given = [put("t", other.rows), ...(withLooked ? [put("u", other.looked)] : [])];
      const next = withGivenRows(opened.plan, opened.tables, new Map(given));
      expectSame(shown(next), shown(compileText(sheetOf(built))));
    }),
    { numRuns: Number(process.env.CASES ?? 60) },
  );
});

const SHOPS = `still: 1
report: Shops
tables:
  sales:
    rows: |
      shop,day,amount,open_for,sure
      a,2026-01-02,10,1:30:00,true
      b,2026-01-03,5,0:45:00,false
    steps:
      - join: {table: shops, on: shop, get: [town]}
      - keep: amount > 2
  shops:
    rows: |
      shop,town
      a,Eastby
      b,Westby
charts:
  towns: {from: sales, draw: bars, y: town, x: sum(amount), color: town}
  days: {from: sales, draw: points, x: day, y: open_for, color: sure}
style: {open: true}
`;
const opened = () => {
  const { plan, tables } = compileText(SHOPS);
  const open = (name: string) => plan.opens?.tables[name] as OpenTable;
  const put = (own: Record<string, object[]>) => {
    const rows = Object.entries(own).map(([name, list]): [string, Table] => {
      const read = readGivenRows(name, open(name), list);
      if ("problem" in read) throw new Error(read.problem);
      expect(read.unread).toEqual([]);
      return [name, read.table];
    });
    return shown(withGivenRows(plan, tables, new Map(rows))) as { pieces: unknown[]; counts: unknown; colors: unknown };
  };
  return { plan, open, put };
};

/** The channels of the first piece. */
const first = (pieces: unknown[]) => Object.fromEntries((pieces[0] as [string, [string, unknown][][]])[1][0] ?? []);

describe("rows that a script gives", () => {
  const NEW = [
    { shop: "b", day: "2026-02-01", amount: 7, open_for: "2:00:00", sure: true },
    { shop: "c", day: null, amount: 4.5, open_for: null, sure: false },
    { shop: "a", day: "2026-02-03", amount: 1, open_for: "0:10:00" },
  ];
  test("go through the steps of their table, and are looked up in the others", () => {
    const { counts, pieces } = opened().put({ sales: NEW });
    // The step that keeps is behind the look-up: all rows are counted that pass it.
    expect(counts).toEqual({ sales: { left: 2, all: 2 } });
    expect(first(pieces)).toEqual({ x: [7, 4.5], y: ["Westby", null], color: ["Westby", null] });
  });
  test("of a table that others look up are found by those", () => {
    const { pieces } = opened().put({ shops: [{ shop: "a", town: "Northby" }] });
    expect(first(pieces)).toEqual({ x: [10, 5], y: ["Northby", null], color: ["Northby", null] });
  });
  test("may be none at all", () => {
    expect(opened().put({ sales: [] }).counts).toEqual({ sales: { left: 0, all: 0 } });
  });
  test("must have every column that is needed, and say so by name", () => {
    const { open } = opened();
    expect(readGivenRows("sales", open("sales"), [{ shop: "a", amount: 2 }])).toEqual({
      problem:
        "sales needs the columns day, open_for, sure, not there in the rows given for sales; there are shop, amount",
    });
    expect(readGivenFile("sales", open("sales"), "sales.pdf", new Uint8Array())).toEqual({
      problem: "sales.pdf is none of the kinds that this dashboard reads: .csv, .tsv, .txt, .json, .ndjson, .jsonl",
    });
  });
  test("say which cells cannot be read", () => {
    const { open } = opened();
    const read = readGivenRows("sales", open("sales"), [{ ...NEW[0], amount: "seven" }]);
    expect(read).toMatchObject({ unread: ["one cell of amount could not be read as a number"] });
  });
  test("take days and spans as a dashboard gives them", () => {
    const { open } = opened();
    const read = readGivenRows("sales", open("sales"), [
      { ...NEW[0], open_for: 5400, day: new Date(Date.UTC(2026, 1, 1)) },
    ]);
    if ("problem" in read) throw new Error(read.problem);
    expect(read.unread).toEqual([]);
    expect(["open_for", "day"].map((name) => valueAt(read.table.columns.get(name) as Column, 0))).toEqual([
      5400,
      Date.UTC(2026, 1, 1) / 1000,
    ]);
  });
});

describe("a table that was read from a workbook", () => {
  const sheetOfRows = (...rows: [string, number][]) =>
    workbook({
      Trials: [
        [textCell("bed"), textCell("seeds")],
        ...rows.map(([bed, seeds]) => [textCell(bed), `<c @><v>${seeds}</v></c>`]),
      ],
    });
  const text = `still: 1
report: Trials
tables: {t: {read: trials.xlsx, sheet: Trials, steps: [{keep: seeds > 1}]}}
charts: {beds: {from: t, draw: bars, y: bed, x: sum(seeds)}}
style: {open: true}
`;
  test("takes another workbook, and a dashboard has what reads it", async () => {
    const opened = await compileFiles(text, { "trials.xlsx": sheetOfRows(["a", 3], ["b", 1]) });
    // The step that was finished in the build is there for other rows.
    expect(opened.plan.tables.every(({ steps }) => steps === undefined)).toBe(true);
    expect(partsOf(opened.plan)).toEqual(expect.arrayContaining(["open", "open-xlsx", "step-keep"]));
    expect(partsOf(compileText(SHOPS).plan)).not.toContain("open-xlsx");
    const other = sheetOfRows(["b", 9], ["c", 2], ["d", 0]);
    await workbooks.decode(other);
    const readers = { xlsx: workbooks.read };
    const read = readGivenFile("t", opened.plan.opens?.tables.t as OpenTable, "next.xlsx", other, readers);
    if ("problem" in read) throw new Error(read.problem);
    expect(shown(withGivenRows(opened.plan, opened.tables, new Map([["t", read.table]])))).toEqual(
      shown(await compileFiles(text, { "trials.xlsx": sheetOfRows(["b", 9], ["c", 2], ["d", 0]) })),
    );
  });
  test("says of what is none that it is none", async () => {
    const opened = await compileFiles(text, { "trials.xlsx": sheetOfRows(["a", 3]) });
    const broken = new TextEncoder().encode("no workbook");
    await workbooks.decode(broken);
    const read = readGivenFile("t", opened.plan.opens?.tables.t as OpenTable, "x.xlsx", broken, {
      xlsx: workbooks.read,
    });
    expect(read).toMatchObject({ problem: expect.stringContaining("cannot be read as a workbook") });
  });
});

describe("what cannot be opened", () => {
  const CHOSEN = SHOPS.replace("tables:\n", "tables:\n  one: {from: $which}\n");
  test.each([
    ["editions", `${SHOPS}editions: {by: sales.shop}\n`],
    ["a table that a setting chooses", `${CHOSEN}controls: {which: {set: sales, as: menu, of: [sales]}}\n`],
  ])("is said: %s", (_, text) => {
    const wrong = compileText(text).findings.filter(({ severity }) => severity === "error");
    expect(wrong).toMatchObject([{ code: "cannot-open" }]);
  });
  test("and a report without rows of its own says that nothing can be put in", () => {
    const text = SHOPS.replace(
      / {2}sales:[\s\S]*charts:[\s\S]*style/,
      "  t: {make: {rows: 3}}\ncharts: {c: {from: t, draw: figure, value: count()}}\nstyle",
    );
    expect(compileText(text).findings).toMatchObject([{ code: "opens-nothing", severity: "warning" }]);
  });
});
