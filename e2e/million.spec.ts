import { spawnSync } from "node:child_process";
import { existsSync, mkdirSync, statSync, writeFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import { drag, expectNoNoise, leftOf, openFile, rowsOf, stateOf } from "./dashboard";
import { OUT, still } from "./prepare";

test("a table of a million calls builds, opens and answers", async ({ context }) => {
  test.setTimeout(300_000);
  mkdirSync(OUT, { recursive: true });
  const csv = `${OUT}/million.csv`;
  if (!existsSync(csv)) expect(spawnSync("node", [".build/make.mjs", "calls", "1000000", csv]).status).toBe(0);
  expect(statSync(csv).size).toBeGreaterThan(100_000_000);
  writeFileSync(
    `${OUT}/million.still.yaml`,
    `still: 1
report: A million calls
tables: {calls: {read: million.csv}}
charts:
  waiting: {from: calls, draw: bars, x: "bin(waited, 30)", y: count()}
  by_berth: {from: calls, draw: bars, y: berth, x: count()}
  total: {from: calls, draw: figure, value: sum(tonnes)}
links: [brush x on waiting -> filter all]
`,
  );
  const built = still("build", `${OUT}/million.still.yaml`);
  expect(built.stderr).not.toContain("error");
  expect(built.status).toBe(0);
  const opened = await openFile(context, "million.html");
  const { page } = opened;
  const all = (await leftOf(page, "calls")) ?? 0;
  expect(all).toBeGreaterThan(1_000_000);
  await drag(page, "waiting", 0.2, 0.5);
  const { waiting } = (await stateOf(page)) as { waiting: { x: [number, number] } };
  const left = (await leftOf(page, "calls")) ?? 0;
  expect(left).toBeGreaterThan(100_000);
  // The same from scratch, without the index that followed the pointer.
  await page.reload();
  await page.evaluate(() => window.stillHarbor.ready);
  expect(await stateOf(page)).toMatchObject({ waiting });
  expect(await leftOf(page, "calls")).toBe(left);
  const berths = (await rowsOf(page, "by_berth")) as { x: number }[];
  expect(berths.reduce((sum, { x }) => sum + x, 0)).toBe(left);
  expectNoNoise(opened, 2);
});
