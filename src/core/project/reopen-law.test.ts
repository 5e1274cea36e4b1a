import fc from "fast-check";
import { expect, test } from "vitest";
import { compile } from "../compile/compile";
import { buildDashboard } from "../dashboard/build";
import { Model } from "../model/model";
import { compileText } from "../testing/compile-text";
import { chainSheet, settingChains } from "../testing/setting-chains";
import { shown } from "../testing/shown";
import { readDashboardFile } from "./dashboard-file";
import { reopened } from "./reopen";

const inputOf = (text: string, files: ReadonlyMap<string, Uint8Array> = new Map()) => ({
  text,
  fileName: "r",
  readFile: (path: string) => files.get(path),
  listFiles: () => [...files.keys()],
});

/** What stands under every value of the setting, over the rows of a pick too. */
function told({ plan, tables }: ReturnType<typeof compileText>): unknown {
  const model = new Model(plan, tables);
  return [1, 0, 3].map((limit) => {
    model.engine.setSetting("limit", limit);
    return [undefined, { keys: [{ c: "a" }] }].map((pick) => {
      model.engine.select("look", pick);
      // Rows are not counted: a step that nothing needs is not there again, and with it what it made of a table.
      return [shown(model, "one"), shown(model, "look")];
    });
  });
}

test("a dashboard whose steps run in it shows the same when it is opened again, whatever was not packed", () => {
  let compared = 0;
  fc.assert(
    fc.property(settingChains, ({ steps, isDerived, column }) => {
      const whole = compileText(chainSheet(steps, isDerived, 1, ""));
      const names = [...(whole.stages.get("t")?.tables.at(-1)?.columns.keys() ?? [])];
      const text = chainSheet(steps, isDerived, 1, `, columns: ["\`${names[column % names.length]}\`", count()]`);
      const { html, findings } = buildDashboard(inputOf(text), { viewer: () => "" });
      // Steps that cannot stand so are no case.
      if (html === undefined || findings.some(({ severity }) => severity === "error")) return;
      const file = readDashboardFile(html);
      const again = file && reopened(file, "r");
      if (!again) throw new Error("it was not read");
      const compiled = compile(inputOf(again.project.text, again.project.files));
      expect(compiled.findings.filter(({ severity }) => severity === "error")).toEqual([]);
      expect(told(compiled)).toEqual(told(compileText(text)));
      compared += 1;
    }),
    { numRuns: 40 },
  );
  expect(compared).toBeGreaterThan(20);
});
