import { readFileSync, writeFileSync } from "node:fs";
import { expect, type Page, test } from "@playwright/test";
import { expectNoNoise, leftOf, openFile, piece, plot, rowsOf, stateOf } from "./dashboard";
import { OUT } from "./prepare";

const set = (page: Page, name: string, value: unknown) =>
  page.evaluate(([control, to]) => window.stillHarbor.set(control as string, to), [name, value]);

test("a range over everything is off, and what is missing passes it again", async ({ context }) => {
  const opened = await openFile(context, "trusted.html");
  const { page } = opened;
  expect(await leftOf(page, "t")).toBe(60);
  await set(page, "among", { from: 1, to: 58 });
  expect(await leftOf(page, "t")).toBe(52);
  await set(page, "among", { from: 1, to: 59 });
  expect(await leftOf(page, "t")).toBe(60);
  await set(page, "among", { from: 10 });
  expect(await leftOf(page, "t")).toBeLessThan(60);
  await set(page, "among", { from: -5, to: 1000 });
  expect([await leftOf(page, "t"), page.url().includes("among")]).toEqual([60, false]);
  await page.goto(`${page.url().split("#")[0]}#among=0..59`);
  await expect.poll(() => leftOf(page, "t")).toBe(60);
  expectNoNoise(opened, 1);
});

test("a press on a rail brings the nearer end there, and holds it", async ({ context }) => {
  const { page } = await openFile(context, "trusted.html");
  const rail = page.locator("[data-control=among] .track");
  const box = await rail.boundingBox();
  if (!box) throw new Error("no rail");
  const at = (part: number) => [box.x + box.width * part, box.y + box.height / 2] as const;
  await page.mouse.click(...at(0.25));
  const held = async () => (await stateOf(page)).among as { from: number; to: number };
  expect((await held()).to).toBe(59);
  expect((await held()).from).toBeGreaterThan(10);
  expect((await held()).from).toBeLessThan(20);
  await page.mouse.move(...at(0.9));
  await page.mouse.down();
  await page.mouse.move(...at(0.5), { steps: 4 });
  await page.mouse.up();
  await page.mouse.move(...at(0.7));
  expect((await held()).to).toBeGreaterThan(25);
  expect((await held()).to).toBeLessThan(35);
  expect((await held()).from).toBeLessThan(20);
  await expect(page.getByRole("slider", { name: "v, to" })).toBeFocused();
});

test("periods in an address are whole ones, as those that a script selects", async ({ context }) => {
  const { page } = await openFile(context, "trusted.html", "#weekly=x:2024-01-10..2024-01-11");
  expect(await stateOf(page)).toMatchObject({ weekly: { x: ["2024-01-08", "2024-01-15"] } });
  const rows = (await rowsOf(page, "list")).length;
  await page.evaluate(() => window.stillHarbor.clear());
  await page.evaluate(() => window.stillHarbor.select("weekly", { x: ["2024-01-10", "2024-01-11"] }));
  expect([await stateOf(page), (await rowsOf(page, "list")).length]).toEqual([
    expect.objectContaining({ weekly: { x: ["2024-01-08", "2024-01-15"] } }),
    rows,
  ]);
});

test("a key of nothing is that of minus nothing too", async ({ context }) => {
  const { page } = await openFile(context, "trusted.html");
  expect(await rowsOf(page, "zeros")).toHaveLength(1);
  await page.evaluate(() => window.stillHarbor.select("zeros", { keys: [{ z: 0 }] }));
  expect(await rowsOf(page, "list")).toHaveLength(60);
  await page.evaluate(() => window.stillHarbor.select("zeros", { keys: [{ z: -0 }] }));
  expect(await rowsOf(page, "list")).toHaveLength(60);
});

test("a chart that is called as the page's own key keeps its pick, and the page too", async ({ context }) => {
  const { page } = await openFile(context, "trusted.html");
  await page.evaluate(() => window.stillHarbor.select("page", { keys: [{ k: "a" }] }));
  await page.getByRole("button", { name: "Two", exact: true }).click();
  expect(await rowsOf(page, "list")).toHaveLength(20);
  expect(await stateOf(page)).toMatchObject({ page: "Two", "page.held": { keys: [{ k: "a" }] } });
  await page.reload();
  await page.evaluate(() => window.stillHarbor.ready);
  expect(await stateOf(page)).toMatchObject({ page: "Two", "page.held": { keys: [{ k: "a" }] } });
  expect(await rowsOf(page, "list")).toHaveLength(20);
});

test("no address breaks the page, whatever names it knows", async ({ context }) => {
  for (const hash of [
    "#page=constructor:a",
    "#page.held=constructor:a",
    "#weekly=__proto__:1&constructor=2&__proto__=3",
    "#among=toString..valueOf&list.sort=constructor",
    "#list.legend=constructor&zeros=rows:1,2@x",
  ]) {
    const opened = await openFile(context, "trusted.html", hash);
    expect(await leftOf(opened.page, "t"), hash).toBe(60);
    expect((await rowsOf(opened.page, "page")).length, hash).toBe(3);
    expectNoNoise(opened);
    await opened.page.close();
  }
});

test("what is taken as CSV is text and no formula", async ({ context }) => {
  const { page } = await openFile(context, "trusted.html");
  const download = page.waitForEvent("download");
  await piece(page, "list").getByRole("button", { name: "CSV" }).click();
  const text = readFileSync(await (await download).path(), "utf8");
  expect(text).toContain(",'=1+2,");
  expect(text).toContain(",'+a,");
  expect(text).not.toMatch(/(?:^|,)[=+@]/m);
});

test("Escape in the middle of a drag ends it, and the brush is what it was", async ({ context }) => {
  const { page } = await openFile(context, "trusted.html");
  const box = await plot(page, "dots").boundingBox();
  if (!box) throw new Error("no chart");
  const at = (part: number) => [box.x + box.width * part, box.y + box.height / 2] as const;
  await page.mouse.move(...at(0.3));
  await page.mouse.down();
  await page.mouse.move(...at(0.6), { steps: 5 });
  expect(await stateOf(page)).toHaveProperty("dots");
  await page.keyboard.press("Escape");
  await page.mouse.move(...at(0.9), { steps: 5 });
  await page.mouse.up();
  expect(await stateOf(page)).not.toHaveProperty("dots");
  await page.evaluate(() => window.stillHarbor.select("dots", { x: ["2024-01-05", "2024-01-20"] }));
  const before = await stateOf(page);
  await page.mouse.move(...at(0.5));
  await page.mouse.down();
  await page.mouse.move(...at(0.7), { steps: 5 });
  await page.keyboard.press("Escape");
  await page.mouse.up();
  expect(await stateOf(page)).toEqual(before);
});

test("on paper stand all rows of a table and what was picked, and nothing to press", async ({ context }) => {
  const { page } = await openFile(context, "trusted.html");
  await page.evaluate(() => window.stillHarbor.select("page", { keys: [{ k: "a" }, { k: "b" }] }));
  await expect(piece(page, "list").locator("tbody tr")).toHaveCount(10);
  await page.evaluate(() => window.dispatchEvent(new Event("beforeprint")));
  await page.emulateMedia({ media: "print" });
  await expect(piece(page, "list").locator("tbody tr")).toHaveCount(40);
  await expect(page.locator(".sentence")).toContainText("k is a or b");
  for (const gone of ["clear all", "One", "CSV", "next"])
    await expect(page.getByRole("button", { name: gone, exact: true })).toBeHidden();
  await expect(page.locator("[data-control=among]")).toBeHidden();
  const cut = await page.evaluate(
    () =>
      [...document.querySelectorAll<HTMLElement>(".rows")].filter(
        (rows) =>
          rows.offsetParent && (rows.scrollHeight > rows.clientHeight + 1 || rows.scrollWidth > rows.clientWidth + 1),
      ).length,
  );
  expect(cut).toBe(0);
  // Browsers repeat a head on every page, and make room for it, only where it stands in no grid and in no flexible
  // box, and has nothing in it that can be pressed.
  const list = await piece(page, "list").evaluate((section) => {
    const around: string[] = [];
    for (let box = section.querySelector("table")?.parentElement; box; box = box.parentElement)
      around.push(getComputedStyle(box).display);
    const head = section.querySelector("thead");
    return {
      around: [...new Set(around)],
      head: head && getComputedStyle(head).display,
      pressed: [...section.querySelectorAll("thead button, thead .edge")].filter((one) => one.getClientRects().length),
      says: [...section.querySelectorAll("thead th")].map((one) => getComputedStyle(one, "::before").content),
    };
  });
  expect(list).toEqual({
    around: ["block"],
    head: "table-header-group",
    pressed: [],
    says: ["d", "v", "z", "note", "k"].map((name) => `"${name}"`),
  });
  // Charts are drawn for the sheet of paper: nothing of them lies beyond it.
  const wide = await page.evaluate(
    () =>
      [...document.querySelectorAll<SVGElement>(".plot svg text")].filter(
        (text) => text.getBoundingClientRect().right > 720,
      ).length,
  );
  expect(wide).toBe(0);
  await page.emulateMedia({ media: "screen" });
  await page.evaluate(() => window.dispatchEvent(new Event("afterprint")));
  await expect(piece(page, "list").locator("tbody tr")).toHaveCount(10);
});

test("a dashboard in a frame of another page tells that page nothing and leaves it its keys", async ({ page }) => {
  const file = `${OUT}/framed.html`;
  writeFileSync(
    file,
    `<!doctype html><title>around</title><script>window.told = []; addEventListener("message", (event) => told.push(event.data));</script>
<iframe src="trusted.html" width="1200" height="700"></iframe>`,
  );
  await page.goto(`file://${process.cwd()}/${file}`);
  const frame = page.frame({ url: /trusted\.html/ });
  if (!frame) throw new Error("no frame");
  await frame.evaluate(() => window.stillHarbor.ready);
  await frame.evaluate(() => window.stillHarbor.select("page", { keys: [{ k: "a" }] }));
  await frame.locator("section[data-piece=page]").click();
  const left = await frame.evaluate(() => {
    const event = new KeyboardEvent("keydown", { key: "k", ctrlKey: true, bubbles: true, cancelable: true });
    return document.body.dispatchEvent(event);
  });
  expect(left).toBe(true);
  expect(await frame.evaluate(() => location.hash)).toContain("page.held=");
  expect(await page.evaluate(() => (window as unknown as { told: unknown[] }).told)).toEqual([]);
});
