import { expect, test } from "@playwright/test";
import { expectNoNoise, leftOf, openFile, plot, rowsOf, stateOf } from "./dashboard";
import { OUT, still } from "./prepare";

test("picking in a look-up table leaves the rows that found it there, with the keys alone, and after a reload", async ({
  context,
}) => {
  const built = still("build", "examples/germination/germination.still.yaml", "-o", `${OUT}/germination.html`);
  expect(built.status).toBe(0);
  const opened = await openFile(context, "germination.html");
  const { page } = opened;
  expect([await leftOf(page, "species"), await leftOf(page, "trials")]).toEqual([5, 170]);
  await plot(page, "habitats").focus();
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter");
  await expect(page.locator(".sentence")).toContainText("2 of 5 species · 69 of 170 trials where habitat is meadow");
  const years = (await rowsOf(page, "years")) as { name: string }[];
  expect(years.map(({ name }) => name).sort()).toEqual(["Devil's-bit", "Harebell"]);
  // The same, from what the trials themselves say of their habitat.
  const trays = (await rowsOf(page, "days_and_share")) as { color: string }[];
  expect([trays.length, new Set(trays.map(({ color }) => color))]).toEqual([69, new Set(["meadow"])]);
  const state = await stateOf(page);
  await page.reload();
  await page.evaluate(() => window.stillHarbor.ready);
  expect(await stateOf(page)).toEqual(state);
  expect(await leftOf(page, "trials")).toBe(69);
  await page.keyboard.press("Escape");
  expectNoNoise(opened, 2);
});
