import { expect, test } from "@playwright/test";
import AxeSource from "axe-core";
import { drag, expectNoNoise, leftOf, openFile, piece, plot, rowsOf, stateOf } from "./dashboard";

test("a control begins as the sheet says, and nothing ticked can mean nothing", async ({ context }) => {
  const opened = await openFile(context, "ways.html");
  const { page } = opened;
  await expect(page.getByRole("checkbox", { name: /x/ })).toBeChecked();
  await expect(page.getByRole("checkbox", { name: /y/ })).not.toBeChecked();
  expect(await leftOf(page, "t")).toBe(3);
  await page.getByRole("checkbox", { name: /x/ }).uncheck();
  expect(await leftOf(page, "t")).toBe(0);
  await expect(piece(page, "beside")).toContainText("No rows pass");
  await page.getByRole("group", { name: /^c/ }).getByRole("button", { name: "all" }).click();
  expect(await leftOf(page, "t")).toBe(6);
  await page.reload();
  await page.evaluate(() => window.stillHarbor.ready);
  expect(await leftOf(page, "t")).toBe(6);
  await page.evaluate(() => window.stillHarbor.clear());
  expect(await leftOf(page, "t")).toBe(3);
  expectNoNoise(opened, 2);
});

test("missing is an entry of its own everywhere", async ({ context }) => {
  const { page } = await openFile(context, "ways.html");
  await page.evaluate(() => window.stillHarbor.set("c", "all"));
  await expect(piece(page, "faded").getByRole("button", { name: "missing" })).toBeVisible();
  expect(((await rowsOf(page, "beside")) as { x: string }[]).map(({ x }) => x)).toEqual(["c", "a", "a", "b", null]);
  await page.evaluate(() => window.stillHarbor.set("c", [null]));
  expect(await rowsOf(page, "days")).toEqual([{ x: "2024-04-09T12:00:00", y: 50 }]);
});

test("a legend that fades keeps the rows, and filters others where a link says so", async ({ context }) => {
  const { page } = await openFile(context, "ways.html");
  await page.evaluate(() => window.stillHarbor.set("c", "all"));
  const before = await rowsOf(page, "faded");
  await piece(page, "faded").getByRole("button", { name: "x", exact: true }).click();
  const after = (await rowsOf(page, "faded")) as { color: string; faded?: boolean }[];
  expect(after.map(({ faded: _, ...row }) => row)).toEqual(before);
  expect(after.filter(({ faded }) => faded).every(({ color }) => color === "x")).toBe(true);
  expect(((await rowsOf(page, "days")) as { y: number }[]).map(({ y }) => y)).toEqual([20, 50, 60]);
  await piece(page, "faded").getByRole("button", { name: "x", exact: true }).click();
  expect(await rowsOf(page, "days")).toHaveLength(6);
  await piece(page, "faded")
    .getByRole("button", { name: "y", exact: true })
    .click({ modifiers: ["Shift"] });
  expect(((await rowsOf(page, "days")) as { y: number }[]).map(({ y }) => y)).toEqual([20, 60]);
});

test("a brush upwards fades a line and runs a group again", async ({ context }) => {
  const { page } = await openFile(context, "ways.html");
  await page.evaluate(() => window.stillHarbor.set("c", "all"));
  expect(await rowsOf(page, "grouped")).toEqual([
    { k: "a", n: 1, most: 20 },
    { k: "b", n: 2, most: 40 },
    { k: "c", n: 1, most: 50 },
    { k: null, n: 1, most: 60 },
  ]);
  await drag(page, "log", 0.5, 0.5, 0.45, 0.1);
  const { log } = (await stateOf(page)) as { log: { y: [number, number] } };
  expect(log.y[1]).toBeGreaterThan(log.y[0]);
  await page.evaluate(() => window.stillHarbor.select("log", { y: [35, 55] }));
  expect(await rowsOf(page, "grouped")).toEqual([
    { k: "b", n: 1, most: 40 },
    { k: "c", n: 1, most: 50 },
  ]);
  const line = (await rowsOf(page, "line")) as { x: string; y: number; picked: boolean }[];
  expect(line.filter(({ picked }) => !picked).map(({ y }) => y)).toEqual([30, 0, 70, 110]);
  expect(line.filter(({ picked }) => picked).map(({ y }) => y)).toEqual([0, 0, 40, 50]);
});

test("a rule runs through every chart that shares the axis, by pointer and by keys", async ({ context }) => {
  const { page } = await openFile(context, "ways.html");
  await page.evaluate(() => window.stillHarbor.set("c", "all"));
  await plot(page, "line").scrollIntoViewIfNeeded();
  await plot(page, "line").hover({ position: { x: 200, y: 80 } });
  for (const name of ["line", "days"]) await expect(piece(page, name).locator("svg.over line")).toHaveCount(1);
  await page.mouse.move(3, 3);
  for (const name of ["line", "days"]) await expect(piece(page, name).locator("svg.over line")).toHaveCount(0);
  await plot(page, "line").focus();
  await page.keyboard.press("End");
  await expect(piece(page, "days").locator("svg.over line")).toHaveCount(1);
  await expect(page.locator(".tip")).toContainText("April 2024");
});

test("shares are percent, log axes and words around a chart are there", async ({ context }) => {
  const { page } = await openFile(context, "ways.html");
  await expect(piece(page, "shares").locator("svg.over").first()).toContainText("100%");
  await expect(piece(page, "log")).toContainText("reversed");
  await expect(piece(page, "log")).toContainText("Drag upwards");
  await expect(piece(page, "log")).toContainText("Made up");
  await expect(piece(page, "log").locator("svg.over").first()).toContainText("Weight, kg");
  await expect(page.locator(".about em")).toHaveText("small");
  const ways = (await rowsOf(page, "flags")) as { x: boolean | null }[];
  expect(ways.map(({ x }) => x)).toEqual([true]);
});

test("a selection with a name of its own answers by it", async ({ context }) => {
  const { page } = await openFile(context, "ways.html");
  await page.evaluate(() => window.stillHarbor.set("c", "all"));
  await page.evaluate(() => window.stillHarbor.select("opened", { keys: [{ open: false }] }));
  expect(await stateOf(page)).toMatchObject({ opened: { keys: [{ open: false }] } });
  expect(((await rowsOf(page, "beside")) as { y: number }[]).map(({ y }) => y).sort()).toEqual([2, 3]);
  await expect(page.getByRole("status")).toContainText("where open is false");
  await page.getByRole("button", { name: "drop open is false" }).click();
  expect(await rowsOf(page, "beside")).toHaveLength(5);
});

test("a range of moments holds the days at both its ends", async ({ context }) => {
  const { page } = await openFile(context, "ways.html");
  await page.evaluate(() => window.stillHarbor.set("c", "all"));
  await page.evaluate(() => window.stillHarbor.set("when", { from: "2024-01-20", to: "2024-03-01" }));
  expect(await leftOf(page, "t")).toBe(2);
  const low = page.getByRole("slider", { name: "d, from" });
  await low.focus();
  await low.press("ArrowRight");
  expect(await leftOf(page, "t")).toBe(1);
  await expect(low).toHaveAttribute("aria-valuetext", "21 Jan 2024");
  await low.press("Home");
  await page.getByRole("slider", { name: "d, to" }).press("End");
  expect(await leftOf(page, "t")).toBe(6);
  expect((await stateOf(page)).when).toBeUndefined();
});

test("axe finds nothing here either", async ({ context }) => {
  const { page } = await openFile(context, "ways.html");
  await page.evaluate(AxeSource.source);
  const found = await page.evaluate(async () => {
    const { axe } = window as unknown as {
      axe: { run: () => Promise<{ violations: { id: string; nodes: { html: string }[] }[] }> };
    };
    return (await axe.run()).violations.map(
      ({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 120)).join(" | ")}`,
    );
  });
  expect(found).toEqual([]);
});

test("on paper the page stands on a light ground without its controls", async ({ context }) => {
  const { page } = await openFile(context, "ways.html");
  await page.emulateMedia({ media: "print" });
  await expect(page.getByRole("checkbox").first()).toBeHidden();
  await expect(page.getByRole("heading", { name: "On a log axis" })).toBeVisible();
});
