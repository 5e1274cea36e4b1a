import { readdirSync, readFileSync } from "node:fs";
import fc from "fast-check";
import { beforeAll, describe, expect, test, vi } from "vitest";
import type { Compiled } from "../compile/compile";
import type { Kit } from "../finding/kit";
import type { Plan } from "../plan/plan";
import { type Case, cases, sheetOf } from "./reference-cases";

/** Modules as they are once parts of the viewer have been loaded anew, one after the other. */
interface Loaded {
  kit: typeof import("../finding/kit");
  parts: typeof import("../dashboard/parts");
  model: typeof import("../model/model");
  draw: typeof import("../chart/draw");
  compiling: typeof import("./compile-text");
  compare: typeof import("./reference-compare");
}

let loaded: Loaded;
/** Kinds as the core and each part of the viewer bring them: what their kit holds, and their names. */
const broughtBy = new Map<string, Set<string>>();
const CORE = "main";

const nameIn = (kit: Kit<unknown>, name: string) => `${(kit as unknown as { what: string }).what} ${name}`;

/** Loads a file of the viewer, and takes down the kinds that it adds. */
async function load(path: string, part: string) {
  const own = new Set<string>();
  broughtBy.set(part, own);
  const { add } = loaded.kit.Kit.prototype;
  const watched = vi.spyOn(loaded.kit.Kit.prototype, "add").mockImplementation(function (
    this: Kit<unknown>,
    name,
    kind,
  ) {
    own.add(nameIn(this, name));
    add.call(this, name, kind);
  });
  await import(/* @vite-ignore */ `../../viewer/${path}.ts`);
  watched.mockRestore();
  const text = readFileSync(`src/viewer/${path}.ts`, "utf8");
  for (const [, other] of text.matchAll(/^import "\.\/(.*)";/gm))
    for (const kind of broughtBy.get(other as string) ?? []) own.add(kind);
}

beforeAll(async () => {
  vi.resetModules();
  loaded = { kit: await import("../finding/kit") } as Loaded;
  await load("main", CORE);
  const isFunction = (part: string) => Number(part.startsWith("function-"));
  const parts = readdirSync("src/viewer/parts").map((file) => file.replace(/\.ts$/, ""));
  // Parts that others take along come first.
  for (const part of parts.sort((a, b) => isFunction(b) - isFunction(a))) await load(`parts/${part}`, part);
  loaded.parts = await import("../dashboard/parts");
  loaded.model = await import("../model/model");
  loaded.draw = await import("../chart/draw");
  loaded.compiling = await import("./compile-text");
  loaded.compare = await import("./reference-compare");
}, 120_000);

/** Kinds that a dashboard of a plan asks for though none of its parts brings them. */
function missedBy(run: (starts: (plan: Plan) => void) => void): string[] {
  const { Kit } = loaded.kit;
  const missed = new Set<string>();
  const { get, has } = Kit.prototype;
  let brought: Set<string> | undefined;
  const note = (kit: Kit<unknown>, name: string) => {
    const asked = nameIn(kit, name);
    if (brought && !brought.has(asked)) missed.add(asked);
  };
  const gets = vi.spyOn(Kit.prototype, "get").mockImplementation(function (this: Kit<unknown>, name) {
    note(this, name);
    return get.call(this, name);
  });
  const haves = vi.spyOn(Kit.prototype, "has").mockImplementation(function (this: Kit<unknown>, name) {
    const there = has.call(this, name);
    if (there) note(this, name);
    return there;
  });
  run((plan) => {
    brought = new Set(
      [CORE, ...loaded.parts.partsOf(plan)].flatMap((part) => [...(broughtBy.get(part) as Set<string>)]),
    );
  });
  gets.mockRestore();
  haves.mockRestore();
  return [...missed];
}

/** Draws all charts of a report, and writes down all of its rows. */
function drawAll({ plan, tables }: Compiled) {
  const model = new loaded.model.Model(plan, tables);
  for (const { name } of plan.pieces) {
    const input = model.chartInput(name, 480, 300, new Set());
    if (input) loaded.draw.drawChart(input);
    for (const asked of model.askedBy(name)) model.engine.answer(asked);
  }
  return model;
}

const SHEET = `charts:
  one: {from: calls, draw: points, x: v, y: v}
  two: {from: calls, draw: figure, value: median(v)}
`;

describe("a dashboard asks for no kind that it comes without", () => {
  test("whatever steps, measures and gestures a report has", { timeout: 600_000 }, () => {
    const property = (one: Case) => {
      const missed = missedBy((starts) => loaded.compare.difference(one, starts));
      expect(missed, sheetOf(one)).toEqual([]);
    };
    fc.assert(fc.property(cases, property), { numRuns: Number(process.env.CASES ?? 60) });
  });
  test("in the first pictures of all examples", { timeout: 120_000 }, async () => {
    let count = 0;
    for (const folder of readdirSync("examples", { withFileTypes: true })) {
      if (!folder.isDirectory()) continue;
      const names = readdirSync(`examples/${folder.name}`);
      for (const sheet of names.filter((name) => name.endsWith(".still.yaml"))) {
        const files = Object.fromEntries(
          names.map((name) => [name, new Uint8Array(readFileSync(`examples/${folder.name}/${name}`))]),
        );
        const text = readFileSync(`examples/${folder.name}/${sheet}`, "utf8");
        const compiled = await loaded.compiling.compileFiles(text, files);
        const missed = missedBy((starts) => {
          starts(compiled.plan);
          drawAll(compiled);
        });
        expect(missed, sheet).toEqual([]);
        count += 1;
      }
    }
    expect(count).toBeGreaterThan(20);
  });
  test("and it is seen where one is missing", () => {
    const { compileText, sheetOver } = loaded.compiling;
    const compiled = compileText(sheetOver("k,v\na,1\nb,2\n", `${SHEET}links: [brush x on one -> filter two]\n`));
    const without = { ...compiled.plan, pieces: compiled.plan.pieces.slice(0, 1) };
    const missed = missedBy((starts) => {
      starts(without);
      drawAll(compiled);
    });
    expect(missed).toContain("aggregate median");
  });
});
