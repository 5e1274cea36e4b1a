import { expect, test } from "@playwright/test";
import { expectNoNoise, leftOf, openFile, piece, rowsOf, stateOf } from "./dashboard";

test("a picked row stays the same row while its table is run again", async ({ context }) => {
  const opened = await openFile(context, "rerun.html");
  const { page } = opened;
  await page.evaluate(() => window.stillHarbor.set("year", "all"));
  await page.evaluate(() => window.stillHarbor.select("kinds", { keys: [{ kind: "y" }] }));
  expect(await rowsOf(page, "list")).toEqual([
    { shop: "b", n: 1 },
    { shop: "c", n: 5 },
  ]);
  await piece(page, "list").getByRole("row", { name: "c 5" }).click();
  expect(await rowsOf(page, "below")).toEqual([{ shop: "c", n: 5 }]);
  await expect(piece(page, "list").getByRole("row", { name: "c 5" })).toHaveAttribute("aria-selected", "true");
  await expect(piece(page, "list").getByRole("row", { name: "b 1" })).toHaveAttribute("aria-selected", "false");
  await page.evaluate(() => window.stillHarbor.clear("kinds"));
  await expect(piece(page, "list").getByRole("row", { name: "c 5" })).toHaveAttribute("aria-selected", "true");
  expect(await rowsOf(page, "below")).toEqual([{ shop: "c", n: 5 }]);
  expectNoNoise(opened);
});

test("the first of a table that was run again stand on its axis", async ({ context }) => {
  const { page } = await openFile(context, "rerun.html");
  await page.evaluate(() => window.stillHarbor.set("year", "all"));
  expect(((await rowsOf(page, "best_shops")) as { y: string }[]).map(({ y }) => y).sort()).toEqual(["a", "b"]);
  await page.evaluate(() => window.stillHarbor.select("kinds", { keys: [{ kind: "y" }] }));
  expect(await rowsOf(page, "best_shops")).toEqual([
    { y: "b", x: 1 },
    { y: "c", x: 5 },
  ]);
});

test("numbers that a list of boxes begins with are ticked, kept and given back as numbers", async ({ context }) => {
  const { page } = await openFile(context, "rerun.html");
  const box = (name: RegExp) => page.getByRole("checkbox", { name });
  await expect(box(/2017/)).not.toBeChecked();
  await expect(box(/2018/)).toBeChecked();
  expect(await leftOf(page, "t")).toBe(3);
  expect(await stateOf(page)).not.toHaveProperty("year");
  await page.evaluate(() => window.stillHarbor.set("year", [2017]));
  expect(await stateOf(page)).toMatchObject({ year: [2017] });
  await page.reload();
  await page.evaluate(() => window.stillHarbor.ready);
  expect(await stateOf(page)).toMatchObject({ year: [2017] });
  await expect(box(/2017/)).toBeChecked();
  expect(await leftOf(page, "t")).toBe(1);
  await page.evaluate(() => window.stillHarbor.clear());
  expect(await leftOf(page, "t")).toBe(3);
});
