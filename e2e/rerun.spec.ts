import { expect, test } from "@playwright/test";
import { expectNoNoise, leftOf, openFile, piece, plot, rowsOf, stateOf } from "./dashboard";

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

test("what is under the pointer, or where the keyboard stands, is held for as long", async ({ context }) => {
  const { page } = await openFile(context, "rerun.html");
  await page.evaluate(() => window.stillHarbor.set("year", "all"));
  const shops = async (name: string) => ((await rowsOf(page, name)) as { shop: string }[]).map(({ shop }) => shop);
  const picked = async () =>
    ((await rowsOf(page, "kinds")) as { y: string; picked?: boolean }[]).filter((row) => row.picked);
  const area = plot(page, "best_shops");
  const box = await area.boundingBox();
  if (!box) throw new Error("no chart");
  await page.mouse.move(box.x + 60, box.y + 30);
  await expect.poll(() => shops("below")).toEqual(["a"]);
  expect(await stateOf(page)).not.toHaveProperty("best_shops.hover");
  await page.mouse.move(5, 5);
  await expect.poll(() => shops("below")).toEqual(["a", "b", "b", "c"]);
  await area.focus();
  await page.keyboard.press("End");
  await expect.poll(() => shops("below")).toEqual(["b", "b"]);
  await area.blur();
  await piece(page, "below").getByRole("row", { name: "c 5" }).hover();
  await expect.poll(picked).toEqual([{ y: "y", x: 5, picked: true }]);
  await page.mouse.move(5, 5);
  await expect.poll(picked).toEqual([]);
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
