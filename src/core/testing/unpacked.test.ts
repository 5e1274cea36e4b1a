import { readdirSync, readFileSync } from "node:fs";
import { inflateRawSync } from "node:zlib";
import { describe, expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import { compile } from "../compile/compile";
import { prepareFiles } from "../compile/prepare";
import { buildDashboard } from "../dashboard/build";
import type { PackedTable } from "../dashboard/encoding";
import { unpackTable } from "../dashboard/unpack";
import type { SelectionState } from "../link/selection";
import { Model } from "../model/model";
import type { Plan } from "../plan/plan";
import { readDashboardFile } from "../project/dashboard-file";
import { reopened } from "../project/reopen";
import { nameAt } from "../query/categories";
import { LayerValues } from "../query/values";
import { fromBase64 } from "../table/base64";
import { extentOf } from "../table/extent";
import type { Table } from "../table/table";
import { expectSame } from "./same";

/** The model that a reader's browser makes of the file. */
function modelOfFile(html: string): Model {
  const json = /<script type="application\/json" id="plan">(.*?)<\/script>/s.exec(html)?.[1] ?? "";
  const { plan, tables } = JSON.parse(json) as { plan: Plan; tables: PackedTable[] };
  const blocks = [...html.matchAll(/<template data-column[^>]*>(.*?)<\/template>/gs)].map(
    ([, text]) => new Uint8Array(inflateRawSync(fromBase64((text as string).replace(/\s/g, "")))),
  );
  const unpacked = new Map<string, Table>();
  for (const table of tables) unpacked.set(table.name, unpackTable(table, blocks.splice(0, table.columns.length)));
  return new Model(plan, unpacked);
}

/** The sheet's own text left out: what nothing reaches is packed as its groups then. */
const withoutSheet = (text: string): string =>
  /^style: \{/m.test(text)
    ? text.replace(/^style: \{/m, "style: {sheet: leave_out, ")
    : `${text}\nstyle: {sheet: leave_out}\n`;

/** The report that the workbench makes of the file, compiled again. */
async function modelOfReopened(html: string): Promise<Model> {
  const file = readDashboardFile(html);
  const project = file && reopened(file, "again")?.project;
  if (!project) throw new Error("not opened");
  const { text, files, sheetName } = project;
  const input = {
    text,
    fileName: sheetName,
    readFile: (name: string) => files.get(name),
    listFiles: () => [...files.keys()],
  };
  await prepareFiles(input);
  const { plan, tables, findings } = compile(input);
  expect(findings.filter(({ severity }) => severity === "error")).toEqual([]);
  return new Model(plan, tables);
}

interface Models {
  build: Model;
  viewer: Model;
  alone: Model;
  again: Model;
}

async function modelsOf(folder: string, sheet: string): Promise<Models> {
  const names = readdirSync(`examples/${folder}`);
  const files = new Map(names.map((name) => [name, new Uint8Array(readFileSync(`examples/${folder}/${name}`))]));
  const input = {
    text: readFileSync(`examples/${folder}/${sheet}`, "utf8"),
    fileName: sheet,
    readFile: (name: string) => files.get(name),
    listFiles: () => names,
  };
  await prepareFiles(input);
  const { html, plan, tables } = buildDashboard(input, { viewer: () => "0" });
  if (html === undefined) throw new Error(`${sheet} gives no file`);
  const without = buildDashboard({ ...input, text: withoutSheet(input.text) }, { viewer: () => "0" });
  if (without.html === undefined) throw new Error(`${sheet} gives no file without its text`);
  const again = await modelOfReopened(html);
  return { build: new Model(plan, tables), viewer: modelOfFile(html), alone: modelOfFile(without.html), again };
}

/** For every selection something that it can hold: the middle of its extent, the first group of its piece, or rows. */
function statesOf(model: Model): [string, SelectionState][] {
  return model.plan.selections.flatMap((selection): [string, SelectionState][] => {
    const state: SelectionState = {};
    for (const axis of ["x", "y"] as const) {
      const formula = selection.axes[axis];
      const column = formula && model.engine.columnsOf(selection.table).get(formula);
      const [low, high] = (column && column.kind !== "text" ? extentOf(column.values) : undefined) ?? [0, 0];
      if (low < high) state[axis] = [low + (high - low) / 4, low + (high - low) / 2];
    }
    if (state.x || state.y) return [[selection.name, state]];
    const [text, formula] = Object.entries(selection.keys)[0] ?? [];
    if (text === undefined) return [[selection.name, { rows: [1, 3] }]];
    const column = formula && model.engine.columnsOf(selection.table).get(formula);
    const first = column?.kind === "text" ? [...column.dictionary].sort()[0] : undefined;
    return text !== undefined && first !== undefined ? [[selection.name, { keys: [{ [text]: first }] }]] : [];
  });
}

/** What the pieces show, but for how many rows stand behind each group of a list. */
const shownValues = (model: Model) => shown(model).map((own) => (Array.isArray(own) ? own[1] : own));

function shown(model: Model) {
  return model.plan.pieces.map(({ name }) => {
    const input = model.chartInput(name, 480, 300, new Set());
    if (input) return drawChart(input).scene;
    const found = model.plainAnswer(name);
    if (!found) return [];
    const values = new LayerValues(found.answer, found.all);
    // Texts by their names: packing numbers them anew.
    const named = Object.keys(found.answer.prepared.query.channels).map((channel) => {
      const column = values.get(channel);
      return column?.kind === "text" ? Array.from(column.codes, (_, id) => nameAt(column, id)) : column?.values;
    });
    return [found.answer.counts, named];
  });
}

describe("the file shows what the build shows, from tables that were packed and unpacked", () => {
  const sheets = readdirSync("examples", { withFileTypes: true })
    .filter((entry) => entry.isDirectory())
    .flatMap(({ name }) => readdirSync(`examples/${name}`).map((file) => [name, file] as const))
    .filter(([, file]) => file.endsWith(".still.yaml"));
  test.each(sheets)("%s/%s", async (folder, sheet) => {
    const { build, viewer, alone, again } = await modelsOf(folder, sheet);
    const first = shown(build);
    expectSame(shown(viewer), first);
    expectSame(shown(alone), first);
    expectSame(shownValues(again), shownValues(build));
    expect(alone.counts()).toEqual(build.counts());
    const states = statesOf(build);
    const kept = build.plan.selections.filter(({ gesture }) => !gesture.startsWith("hover"));
    expect(states.length).toBeGreaterThanOrEqual(Math.min(1, kept.length));
    for (const [name, state] of states) {
      for (const model of [build, viewer, alone]) model.engine.select(name, state);
      expectSame(shown(viewer), shown(build), name);
      expect(viewer.counts(), name).toEqual(build.counts());
    }
    // With all of them on at once, as they stand now.
    expectSame(shown(alone), shown(build));
    expect(alone.counts()).toEqual(build.counts());
    for (const model of [build, viewer]) for (const [name] of states) model.engine.select(name, undefined);
    expectSame(shown(viewer), shown(build));
  });
});
