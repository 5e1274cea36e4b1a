import fc from "fast-check";
import { expect, test } from "vitest";
import { Model } from "../model/model";
import { compileText } from "../testing/compile-text";
import { chainSheet, settingChains } from "../testing/setting-chains";
import { shown } from "../testing/shown";

const compiledOf = (...given: Parameters<typeof chainSheet>) => {
  const compiled = compileText(chainSheet(...given));
  return compiled.findings.some(({ severity }) => severity === "error") ? undefined : compiled;
};

test("after a setting was changed a dashboard shows what one shows that begins with it", () => {
  let compared = 0;
  fc.assert(
    fc.property(settingChains, ({ steps, isDerived, column, limit, picks }) => {
      // Steps that cannot stand so are no case.
      const names = [...(compiledOf(steps, isDerived, 1, "")?.stages.get("t")?.tables.at(-1)?.columns.keys() ?? [])];
      const name = names[column % names.length];
      if (name === undefined) return;
      const chart = `, columns: ["\`${name}\`", count()]`;
      const [before, fresh] = [1, limit].map((start) => compiledOf(steps, isDerived, start, chart));
      if (!before || !fresh) return;
      const [changed, begun] = [before, fresh].map(({ plan, tables }) => new Model(plan, tables)) as [Model, Model];
      shown(changed, "one");
      changed.engine.setSetting("limit", limit);
      for (const model of picks ? [changed, begun] : []) model.engine.select("look", { keys: [{ c: "a" }] });
      expect(shown(changed, "one")).toEqual(shown(begun, "one"));
      expect(changed.counts()).toEqual(begun.counts());
      compared += 1;
    }),
    { numRuns: 150 },
  );
  expect(compared).toBeGreaterThan(80);
});
