import { spawnSync } from "node:child_process";
import { existsSync, mkdirSync, statSync, writeFileSync } from "node:fs";
import { expect, type Page, test } from "@playwright/test";
import { drag, expectNoNoise, leftOf, openFile, rowsOf, stateOf } from "./dashboard";
import { ADDRESS, brush, exchange, goTo, kept, parts } from "./desk";
import { OUT, still } from "./prepare";

/** Calls as a file, as many as are wanted; made once, from seeds. */
function callsOf(name: string, rows: number): string {
  mkdirSync(OUT, { recursive: true });
  const csv = `${OUT}/${name}.csv`;
  if (!existsSync(csv)) expect(spawnSync("node", [".build/make.mjs", "calls", String(rows), csv]).status).toBe(0);
  expect(statSync(csv).size).toBeGreaterThan(rows * 100);
  return csv;
}

const millionCalls = () => callsOf("million", 1_000_000);

/** Opens the workbench and gives it a file of calls; they are being read when this answers. */
async function take(page: Page, csv: string) {
  await page.goto(ADDRESS);
  const desk = parts(page);
  await expect(desk.tally).toContainText("nothing to mend");
  await page.locator("input[data-pick=new]").setInputFiles(csv);
  return desk;
}

test.describe.configure({ mode: "serial" });

test("a table of a million calls builds, opens and answers", async ({ context }) => {
  test.setTimeout(300_000);
  millionCalls();
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

test("the workbench takes a million calls in, says how far it is, and goes on answering", async ({ page }) => {
  test.setTimeout(300_000);
  const desk = await take(page, millionCalls());
  const reading = page.getByText(/reading million\.csv, [\d,]+ rows, \d+ %(, \d+ s left)?/);
  await expect(reading).toBeVisible();
  // The page answers while the worker reads.
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "All keys" })).toBeVisible();
  expect(await reading.count()).toBe(1);
  await page.keyboard.press("Escape");
  await expect(page.getByText(/1,0\d\d,\d\d\d rows of 12 columns/)).toBeVisible();
  const rows = page.getByRole("table", { name: "Rows of million" });
  await rows.focus();
  await page.keyboard.press("End");
  await expect(rows.getByRole("row").last()).toContainText("C-");
  await page
    .getByRole("region", { name: "First charts" })
    .getByRole("button", { name: /^write \d into the sheet/ })
    .click();
  const chart = desk.proof.locator("section[data-piece=spread]").getByRole("application");
  await expect(chart).toBeVisible();
  await brush(page, chart, 120, 216);
  const sentence = desk.proof.locator(".sentence");
  await expect(sentence).toContainText("where");
  const download = page.waitForEvent("download");
  await page.keyboard.press("Control+s");
  await download;
  const before = await sentence.textContent();
  await exchange(desk, "report: Million", "report: A million kept");
  await expect(desk.proof.getByRole("heading", { name: "A million kept", level: 1 })).toBeVisible();
  await expect(sentence).toHaveText(before ?? "");
});

test("a reload, or a stop, in the middle of reading loses nothing", async ({ page }) => {
  test.setTimeout(300_000);
  const desk = await take(page, callsOf("many", 400_000));
  await expect(page.getByText(/reading many\.csv/)).toBeVisible();
  await page.reload();
  await expect(desk.sheet).toContainText("read: many.csv");
  await page.getByRole("button", { name: "stop" }).click();
  await expect(desk.tally).toContainText("Stopped.");
  // The next change reads on.
  await exchange(desk, "report: Many", "report: Still here");
  await goTo(page, "Tables");
  await expect(page.getByText(/4\d\d,\d\d\d rows of 12 columns/)).toBeVisible();
  expect((await kept(page))?.files.map(([name]) => name)).toContain("many.csv");
});
