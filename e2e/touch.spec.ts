import { devices, expect, test } from "@playwright/test";
import { piece, plot, rowsOf, stateOf } from "./dashboard";
import { OUT } from "./prepare";

test.use({
  viewport: { width: 390, height: 780 },
  hasTouch: true,
  isMobile: true,
  userAgent: devices["Pixel 7"].userAgent,
});

test.beforeEach(async ({ page }) => {
  await page.goto(`file://${process.cwd()}/${OUT}/quay.html`);
  await page.evaluate(() => window.stillHarbor.ready);
});

test("a tap picks a bar, and another takes it away", async ({ page }) => {
  await plot(page, "by_berth").scrollIntoViewIfNeeded();
  await plot(page, "by_berth").tap({ position: { x: 110, y: 30 } });
  expect(await stateOf(page)).toMatchObject({ by_berth: { keys: [{ berth: "Long Quay" }] } });
  await plot(page, "by_berth").tap({ position: { x: 110, y: 30 } });
  expect(await stateOf(page)).toEqual({ page: "Overview" });
});

test("controls, legends and tables answer a tap", async ({ page }) => {
  const colours = async () => new Set(((await rowsOf(page, "trend")) as { color: string }[]).map(({ color }) => color));
  // On a screen as narrow as this one controls stand behind one word.
  await page.getByRole("button", { name: "controls" }).tap();
  await page.getByRole("checkbox", { name: /grain/ }).tap();
  expect([...(await colours())]).toEqual(["grain"]);
  await page.getByRole("checkbox", { name: /fuel/ }).tap();
  expect([...(await colours())].sort()).toEqual(["fuel", "grain"]);
  await piece(page, "trend").getByRole("button", { name: "fuel" }).tap();
  expect([...(await colours())]).toEqual(["grain"]);
  await piece(page, "landed").getByRole("button", { name: "vessel" }).tap();
  const vessels = ((await rowsOf(page, "landed")) as { vessel: string }[]).map(({ vessel }) => vessel);
  expect(vessels).toEqual([...vessels].sort());
});

test("nothing is wider than the screen", async ({ page }) => {
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  for (const name of ["tonnage", "by_berth", "trend", "waiting", "landed"]) {
    const box = await piece(page, name).boundingBox();
    if (!box) throw new Error(`${name} is not there`);
    expect(box.width, name).toBeGreaterThan(100);
    expect(box.x + box.width, name).toBeLessThanOrEqual(391);
  }
});
