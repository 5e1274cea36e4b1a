import { describe, expect, test } from "vitest";
import { Kit, MissingKind } from "../finding/kit";
import { compileText, sheetOver } from "../testing/compile-text";
import { partsOf, proofScript, scriptFor, scriptOf, type ViewerKit } from "./parts";

const CSV = "k,v,d\na,1,2024-01-01\nb,2,2024-01-02\n";

const planOf = (more: string) => compileText(sheetOver(CSV, more)).plan;

describe("the parts of a dashboard", () => {
  test("are those that its plan can reach", () => {
    const plan = planOf(`controls:
  k: {pick: k, from: calls}
  n: {set: 3, as: slider, range: [1, 9]}
  least: {pick: v, from: calls, as: at_least}
charts:
  one: {from: calls, draw: bars, x: k, y: sum(v)}
  two: {from: calls, draw: figure, value: count()}
links: [click on one -> filter two]
`);
    expect(partsOf(plan)).toEqual([
      "control-bound",
      "control-checkboxes",
      "control-slider",
      "gesture-click",
      "mark-bars",
      "piece-chart",
      "piece-figure",
      "take-xlsx",
      "zoom",
    ]);
  });
  test("hold the steps that run in the dashboard, and no others", () => {
    const table = `tables:
  sums:
    from: calls
    steps: [{group: {by: [k], get: {n: sum(v)}}}]
`;
    const charts = "charts:\n  one: {from: calls, draw: points, x: v, y: v}\n  two: {from: sums, draw: table}\n";
    const still = sheetOver(CSV, "").replace("tables:\n", table) + charts;
    expect(partsOf(compileText(still).plan)).not.toContain("step-group");
    expect(partsOf(compileText(`${still}links: [brush x on one -> filter two]\n`).plan)).toContain("step-group");
  });
});

describe("the script of a dashboard", () => {
  const kit: ViewerKit = {
    core: "CORE",
    parts: {
      "shared-00": "X",
      "mark-bars": "B",
      "piece-chart": "C",
      proof: "P",
      "step-add": "A",
      "take-xlsx": "T",
      zoom: "Z",
    },
    needs: { "mark-bars": ["shared-00"] },
  };
  test("is the core, its parts by name, and the start", () => {
    expect(scriptOf(kit, ["mark-bars", "piece-chart"])).toBe('(()=>{"use strict";CORE\nX\nB\nC\nwake()})()');
  });
  test("is the same for the same plan, and never has the part that answers to a page around it", () => {
    const plan = planOf("charts:\n  one: {from: calls, draw: bars, x: k, y: sum(v)}\n");
    expect(scriptFor(kit)(plan)).toBe(scriptOf(kit, ["mark-bars", "piece-chart", "take-xlsx", "zoom"]));
    expect(scriptFor(kit)(plan)).toBe(scriptFor(kit)(structuredClone(plan)));
    expect(proofScript(kit)).toContain("\nP\n");
  });
  test("cannot be made of parts that are not there", () => {
    expect(() => scriptOf(kit, ["mark-lines"])).toThrow('there is no part "mark-lines"');
    expect(() => new Kit("mark").get("area")).toThrow(MissingKind);
    expect(() => new Kit("mark").get("area")).toThrow('written without the mark "area"');
  });
});
