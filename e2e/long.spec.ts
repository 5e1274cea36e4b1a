import { readFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import AxeSource from "axe-core";
import Papa from "papaparse";
import { drag, expectNoNoise, leftOf, openFile, piece, rowsOf, stateOf } from "./dashboard";
import { OUT } from "./prepare";

/** The two long reports: a monthly one with a file for each dairy, and one for a screen on the wall. */

type Row = Record<string, string>;
const rowsIn = (path: string) =>
  Papa.parse<Row>(readFileSync(`examples/${path}`, "utf8"), { header: true, skipEmptyLines: true }).data;

test("a monthly report of four pages holds one dairy alone, in the house style", async ({ context }) => {
  const own = rowsIn("dairy-month/deliveries.csv").filter(({ dairy }) => dairy === "Combe");
  const opened = await openFile(context, "dairy-month/Combe.html");
  const { page } = opened;
  expect(await leftOf(page, "deliveries")).toBe(own.length);
  const file = readFileSync(`${OUT}/dairy-month/Combe.html`, "utf8");
  expect(file).not.toContain("Brook Farm");
  const worth = own.reduce((sum, row) => sum + Number(row.amount) * Number(row.price), 0);
  const [shown] = (await rowsOf(page, "worth")) as { value: number }[];
  expect(shown?.value).toBeCloseTo(worth, 6);
  // The house style parts thousands by a space, and has a palette of its own.
  await expect(piece(page, "worth")).toContainText(Math.round(worth).toLocaleString("en").replace(",", " "));
  await expect(piece(page, "course").locator(".legend path").first()).toHaveAttribute("fill", "#1d5f5a");
  await page.getByRole("button", { name: "What came back" }).click();
  await piece(page, "reasons").getByRole("application").focus();
  await page.keyboard.press("Home");
  await page.keyboard.press("Enter");
  const { reasons } = (await stateOf(page)) as { reasons: { keys: { reason: string }[] } };
  const picked = own.filter(({ reason }) => reason === reasons.keys[0]?.reason);
  await page.getByRole("button", { name: "Rows" }).click();
  expect(await rowsOf(page, "rows")).toHaveLength(picked.length);
  expectNoNoise(opened);
});

test("controls that stand on several pages are the same on each, and go along to where the reader turns", async ({
  context,
}) => {
  const own = rowsIn("dairy-month/deliveries.csv").filter(({ dairy }) => dairy === "Combe");
  const { page } = await openFile(context, "dairy-month/Combe.html");
  await page.getByRole("button", { name: "Goods" }).click();
  const cheese = page.getByRole("checkbox", { name: /^cheese/ });
  await expect(cheese).toHaveCount(1);
  await cheese.press("Space");
  const left = own.filter(({ goods }) => goods === "cheese").length;
  expect(await leftOf(page, "deliveries")).toBe(left);
  for (const name of ["Rows", "Overview", "What came back"]) {
    await page.getByRole("button", { name }).click();
    await expect(
      page.getByRole("complementary", { name: "Controls" }).getByRole("checkbox", { name: /^cheese/ }),
    ).toBeChecked();
  }
  await expect(page.getByRole("radio", { name: "by quarter" })).toHaveCount(0);
  await cheese.press("Space");
  expect(await leftOf(page, "deliveries")).toBe(own.length);
});

test("views that the author offers are a menu of the page", async ({ context }) => {
  const { page } = await openFile(context, "dairy-month/Dunley.html");
  const own = rowsIn("dairy-month/deliveries.csv").filter(({ dairy }) => dairy === "Dunley");
  await page.getByRole("button", { name: "views" }).click();
  await page.getByRole("menuitem", { name: "The north round" }).click();
  expect(await stateOf(page)).toMatchObject({ page: "Rows", rounds: { keys: [{ round: "north" }] } });
  expect(await rowsOf(page, "rows")).toHaveLength(own.filter(({ round }) => round === "north").length);
});

test("a reader turns quarters and shares on", async ({ context }) => {
  const { page } = await openFile(context, "dairy-month/Combe.html");
  const texts = () => piece(page, "course").locator("svg.over text").allTextContents();
  await page.getByRole("radio", { name: "by quarter" }).check();
  await expect
    .poll(async () => new Set(((await rowsOf(page, "course")) as { x: string }[]).map(({ x }) => x)).size)
    .toBe(6);
  await page.getByRole("radio", { name: "as shares" }).check();
  await expect.poll(texts).toContain("100%");
});

test("the wall's dashboard follows a stretch of its course at every size", async ({ context }) => {
  const readings = rowsIn("pump-room/pumps.csv");
  const opened = await openFile(context, "pump-room.html");
  const { page } = opened;
  await page.setViewportSize({ width: 2560, height: 1440 });
  await drag(page, "course", 0.3, 0.5);
  const { course } = (await stateOf(page)) as { course: { x: [string, string] } };
  const [from, to] = course.x.map((text) => text.replace("T", " ").slice(0, 16)) as [string, string];
  const inside = readings.filter(({ time = "" }) => time >= from && time < to);
  expect(inside.length).toBeGreaterThan(300);
  expect(await leftOf(page, "pumps")).toBe(inside.length);
  const flows = (await rowsOf(page, "flow")) as { by: string; value: number }[];
  expect(flows).toHaveLength(5);
  for (const { by, value } of flows) {
    const pump = inside.filter((row) => row.pump === by);
    expect(value).toBeCloseTo(pump.reduce((sum, row) => sum + Number(row.flow_ls), 0) / pump.length, 6);
  }
  const wide = await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth);
  expect(wide).toBe(true);
  expectNoNoise(opened);
});

test("axe finds nothing in reports with drawn cells, ramps and legends, on both grounds", async ({ context }) => {
  for (const name of ["numbers", "ridge-walk", "heat", "points", "evening-school"]) {
    const { page } = await openFile(context, `${name}.html`);
    // A button on its way into sight is seen half-way there.
    await page.emulateMedia({ reducedMotion: "reduce" });
    await page.evaluate(AxeSource.source);
    for (const ground of ["light", "dark"]) {
      if (ground === "dark") {
        await page.getByRole("button", { name: "Page menu" }).click();
        await page.getByRole("menuitem", { name: "dark ground" }).click();
      }
      const found = await page.evaluate(() => (window as unknown as { axe: typeof AxeSource }).axe.run());
      const words = found.violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html.slice(0, 120))]);
      expect(words, `${name}, ${ground}`).toEqual([]);
    }
    await page.close();
  }
});

test("on a phone one page stands alone, and none is wider than the screen", async ({ browser }) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 780 } });
  for (const report of ["berth-report.html", "kinds.html"]) {
    const { page } = await openFile(context, report);
    const tabs = page.locator("[data-page]");
    for (let at = 0; at < (await tabs.count()); at++) {
      await tabs.nth(at).click();
      await expect(page.locator("main.page:visible")).toHaveCount(1);
      expect(await page.evaluate(() => [document.documentElement.scrollWidth, window.scrollX])).toEqual([390, 0]);
    }
  }
  await context.close();
});
