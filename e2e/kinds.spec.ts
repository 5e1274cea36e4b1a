import { expect, test } from "@playwright/test";
import { drag, expectNoNoise, leftOf, openFile, piece, plot, rowsOf, stateOf } from "./dashboard";

test("a box over points holds what lies in it, and every view follows", async ({ context }) => {
  const opened = await openFile(context, "kinds.html");
  const { page } = opened;
  await page.evaluate(() => window.stillHarbor.select("dots", { x: [2, 5], y: [20, 50.5] }));
  const left = [
    { k: "a", v: 2, w: 20 },
    { k: "b", v: 4, w: 40 },
    { k: "c", v: 3, w: 50 },
  ];
  expect(await rowsOf(page, "rows")).toEqual(left);
  expect(await rowsOf(page, "total")).toEqual([{ value: 3 }]);
  expect(await rowsOf(page, "groups")).toEqual([
    { x: 2, y: "a" },
    { x: 4, y: "b" },
    { x: 3, y: "c" },
  ]);
  await page.evaluate(() => window.stillHarbor.clear("dots"));
  await drag(page, "dots", 0.2, 0.9, 0.2, 0.8);
  const { dots } = (await stateOf(page)) as { dots: { x: [number, number]; y: [number, number] } };
  const points = (await rowsOf(page, "dots")) as { x: number; y: number }[];
  const inside = points.filter(({ x, y }) => x >= dots.x[0] && x < dots.x[1] && y >= dots.y[0] && y < dots.y[1]);
  expect(inside.length).toBeGreaterThan(0);
  expect(await rowsOf(page, "rows")).toHaveLength(inside.length);
  expectNoNoise(opened);
});

test("fade keeps all and says what is picked", async ({ context }) => {
  const { page } = await openFile(context, "kinds.html");
  await page.evaluate(() => window.stillHarbor.select("groups", { keys: [{ k: "b" }] }));
  const rows = (await rowsOf(page, "bins")) as { x: number; y: number; picked: boolean }[];
  expect(rows.filter(({ picked }) => !picked).reduce((sum, { y }) => sum + y, 0)).toBe(6);
  expect(rows.filter(({ picked }) => picked).reduce((sum, { y }) => sum + y, 0)).toBe(2);
  expect(await rowsOf(page, "rows")).toHaveLength(2);
});

test("rows of a table are picked, by pointer and by keys", async ({ context }) => {
  const { page } = await openFile(context, "kinds.html");
  const table = piece(page, "rows");
  await table.getByRole("row").nth(2).click();
  expect(await rowsOf(page, "total")).toEqual([{ value: 2 }]);
  await expect(table.getByRole("row").nth(2)).toHaveAttribute("aria-selected", "true");
  await table.getByRole("row").nth(1).focus();
  await page.keyboard.press("Shift+Enter");
  expect(await rowsOf(page, "total")).toEqual([{ value: 1.5 }]);
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  expect(await stateOf(page)).toMatchObject({ rows: { rows: [0] } });
  await table.getByRole("combobox", { name: "Rows a page" }).selectOption("all");
  await expect(table.getByRole("row")).toHaveCount(7);
});

test("rows picked in another build are dropped, saying so", async ({ context }) => {
  const { page } = await openFile(context, "kinds.html");
  await piece(page, "rows").getByRole("row").nth(2).click();
  const hash = await page.evaluate(() => location.hash);
  expect(hash).toMatch(/rows=rows:1@[0-9a-f]{8}$/);
  const again = await openFile(context, "kinds.html", hash);
  expect(await rowsOf(again.page, "total")).toEqual([{ value: 2 }]);
  const other = await openFile(context, "kinds.html", hash.replace(/@.*/, "@00000000"));
  expect(await stateOf(other.page)).toEqual({ page: "First" });
  await expect(other.page.getByRole("status")).toContainText("picked in another build");
});

test("Escape drops what was selected last, one by one", async ({ context }) => {
  const { page } = await openFile(context, "kinds.html");
  await page.evaluate(() => window.stillHarbor.select("groups", { keys: [{ k: "b" }] }));
  await page.evaluate(() => window.stillHarbor.select("dots", { x: [0, 5] }));
  await page.keyboard.press("Escape");
  expect(Object.keys(await stateOf(page))).toEqual(["page", "groups"]);
  await page.keyboard.press("Escape");
  expect(await stateOf(page)).toEqual({ page: "First" });
});

test("settings change bins and grain, menus show counts, pages keep what is set", async ({ context }) => {
  const { page } = await openFile(context, "kinds.html");
  expect(await rowsOf(page, "bins")).toHaveLength(2);
  await page.getByRole("slider", { name: "half" }).fill("5");
  expect(await rowsOf(page, "bins")).toEqual([1, 2, 3, 4, 5].map((x) => ({ x, y: x === 5 ? 2 : 1 })));
  expect(await rowsOf(page, "time")).toHaveLength(4);
  await page.getByRole("combobox", { name: "how" }).selectOption("year");
  expect(await rowsOf(page, "time")).toEqual([{ x: "2024-01-01", y: 21 }]);
  const menu = page.getByRole("combobox", { name: "k", exact: true });
  await expect(menu.getByRole("option", { name: "b (2)" })).toHaveCount(1);
  await menu.selectOption({ label: "missing (1)" });
  expect(await leftOf(page, "t")).toBe(1);
  await page.getByRole("button", { name: "Second" }).click();
  await expect(plot(page, "time")).toBeVisible();
  expect(await stateOf(page)).toEqual({ page: "Second", half: 5, how: "year", k: [null] });
  await page.reload();
  await page.evaluate(() => window.stillHarbor.ready);
  expect(await stateOf(page)).toEqual({ page: "Second", half: 5, how: "year", k: [null] });
  await page.getByRole("button", { name: "First" }).click();
  expect(await rowsOf(page, "rows")).toEqual([{ k: null, v: 6, w: 60 }]);
});

test("nothing left is said in each chart's place", async ({ context }) => {
  const { page } = await openFile(context, "kinds.html");
  await page.evaluate(() => window.stillHarbor.select("dots", { x: [100, 200], y: [0, 1] }));
  expect(await rowsOf(page, "groups")).toEqual([]);
  await expect(piece(page, "groups")).toContainText("No rows pass");
  await expect(piece(page, "rows")).toContainText("0 rows");
  expect(await rowsOf(page, "total")).toEqual([{ value: null }]);
});

test("what a script asks wrongly is refused in words", async ({ context }) => {
  const { page } = await openFile(context, "kinds.html");
  const refused = (run: () => Promise<unknown>) => expect(run()).rejects;
  await refused(() => page.evaluate(() => window.stillHarbor.select("dost", { x: [1, 2] }))).toThrow(
    /no selection "dost"/,
  );
  await refused(() => page.evaluate(() => window.stillHarbor.select("dots", { x: [2, 1] }))).toThrow(
    /are not two ends/,
  );
  await refused(() => page.evaluate(() => window.stillHarbor.select("groups", { keys: [{ nothing: 1 }] }))).toThrow(
    /no column of t/,
  );
  await refused(() => page.evaluate(() => window.stillHarbor.set("half", 99))).toThrow(/between 1 and 6/);
  await refused(() => page.evaluate(() => window.stillHarbor.rows("nobody"))).toThrow(/no piece/);
  const fields = (await openFile(context, "kiln-firings.html")).page;
  await refused(() => fields.evaluate(() => window.stillHarbor.set("paint", "red"))).toThrow(/a colour such as/);
  await refused(() => fields.evaluate(() => window.stillHarbor.set("curve", "maybe"))).toThrow(/true or false/);
  expect(await stateOf(fields)).not.toHaveProperty("paint");
});

test("cells that look like markup are text, and nothing of them runs", async ({ context }) => {
  const opened = await openFile(context, "hostile.html");
  const { page } = opened;
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("</title><script>window.ran = 3</script>");
  expect(await page.title()).toBe("</title><script>window.ran = 3</script>");
  const names = ((await rowsOf(page, "list")) as { name: string }[]).map(({ name }) => name);
  expect(names).toContain("</script><script>window.ran = 1</script>");
  expect(names).toContain("line\u2028separator\u2029here");
  expect(names).toContain("\u202eright to left\u202c");
  expect(names.some((name) => name.length === 100_000)).toBe(true);
  await expect(piece(page, "list")).toContainText('<img src=x onerror="window.ran = 2">');
  await expect(piece(page, "bars").getByRole("heading")).toHaveText('<h1 onclick="window.ran = 6">Bars</h1>');
  await page
    .getByRole("button", { name: /<\/script>/ })
    .first()
    .click();
  await plot(page, "bars").hover({ position: { x: 300, y: 60 } });
  await plot(page, "bars").click({ position: { x: 300, y: 60 } });
  await page.reload();
  await page.evaluate(() => window.stillHarbor.ready);
  expect(await page.evaluate(() => window.ran)).toBeUndefined();
  expect(await page.locator("img, a[href^='javascript']").count()).toBe(0);
  expect(opened.errors).toEqual([]);
});

test("on a narrow screen all stands in one column", async ({ context }) => {
  const { page } = await openFile(context, "quay.html");
  await page.setViewportSize({ width: 390, height: 800 });
  const boxes = await Promise.all(
    ["tonnage", "by_berth", "trend", "waiting", "landed"].map((name) => piece(page, name).boundingBox()),
  );
  for (const box of boxes) expect(box?.width).toBeGreaterThan(340);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await drag(page, "waiting", 0.3, 0.6);
  expect(await stateOf(page)).toHaveProperty("waiting");
  // Words and controls in the grid are no higher than they need.
  const notes = await openFile(context, "numbers.html");
  await notes.page.setViewportSize({ width: 390, height: 800 });
  const note = notes.page.locator(".piece.note").first();
  expect((await note.boundingBox())?.height).toBeLessThan(140);
});

test("marks that lie on one another are told together, and a tooltip can be kept and compared", async ({ context }) => {
  const { page } = await openFile(context, "bakery-waste.html");
  await plot(page, "shops").focus();
  await page.keyboard.press("Home");
  const tip = page.locator(".tip:not(.kept)");
  await expect(tip).toContainText("Bridge End");
  await page.keyboard.press("p");
  await page.keyboard.press("ArrowRight");
  await expect(page.locator(".tip.kept")).toContainText("Bridge End");
  await expect(tip).toContainText("Station Row");
  await page.keyboard.press("Escape");
  await expect(page.locator(".tip.kept")).toHaveCount(0);
  // Sheets of one product with as many baked and as many left lie at one place.
  const rows = (await rowsOf(page, "waste")) as { x: number; y: number }[];
  const crowded = rows.find(({ x, y }, at) => rows.some((one, other) => other > at && one.x === x && one.y === y));
  await plot(page, "waste").focus();
  await page.keyboard.press("Home");
  for (let step = 0; step < rows.length; step++) {
    if (rows[step]?.x === crowded?.x && rows[step]?.y === crowded?.y) break;
    await page.keyboard.press("ArrowRight");
  }
  expect(await tip.locator("tbody").count()).toBeGreaterThan(1);
});

test("a script waits for the button of a control as a reader does; entries left by it are those of the legend", async ({
  context,
}) => {
  const { page } = await openFile(context, "waits.html");
  await page.evaluate(() => window.stillHarbor.set("least", 4));
  expect(await leftOf(page, "t")).toBe(6);
  expect(await stateOf(page)).toEqual({ page: "Waits" });
  await page.evaluate(() => window.stillHarbor.press("go"));
  expect(await leftOf(page, "t")).toBe(3);
  expect(await stateOf(page)).toEqual({ page: "Waits", least: 4 });
  await page.evaluate(() => window.stillHarbor.clear());
  await page.evaluate(() => window.stillHarbor.select("bars.legend", { keys: [{ k: "b" }] }));
  expect(await rowsOf(page, "total")).toEqual([{ value: 9 }]);
  await expect(piece(page, "bars").getByRole("button", { name: "a", exact: true })).toHaveAttribute(
    "aria-pressed",
    "false",
  );
  await page.reload();
  await page.evaluate(() => window.stillHarbor.ready);
  expect(await rowsOf(page, "total")).toEqual([{ value: 9 }]);
});

test("what waits for a pick says so in its place, and shows its rows once there is one", async ({ context }) => {
  const { page } = await openFile(context, "waits.html");
  await expect(piece(page, "rows")).toContainText("Say how much");
  await expect(piece(page, "most")).toContainText("Pick something first");
  expect(await rowsOf(page, "most")).toEqual([]);
  await page.evaluate(() => window.stillHarbor.set("least", 5));
  await page.evaluate(() => window.stillHarbor.press("go"));
  await expect(piece(page, "most")).toContainText("6");
  await expect(piece(page, "rows")).not.toContainText("Say how much");
  expect(await rowsOf(page, "rows")).toEqual([
    { k: "b", v: 5 },
    { k: "c", v: 6 },
  ]);
});

test("a reader chooses the mark, the scale and the stacking", async ({ context }) => {
  const { page } = await openFile(context, "waits.html");
  const texts = () => piece(page, "free").locator("svg.over text").allTextContents();
  expect(await texts()).toContain("a");
  await page.getByRole("combobox", { name: "mark" }).selectOption("points");
  await page.getByRole("combobox", { name: "scale" }).selectOption("log");
  await expect.poll(texts).toContain("V (log)");
  await page.reload();
  await page.evaluate(() => window.stillHarbor.ready);
  expect(await texts()).toContain("V (log)");
});

test("the rows at the nearest name along an axis are held while the pointer is there", async ({ context }) => {
  const { page } = await openFile(context, "waits.html");
  const total = async () => ((await rowsOf(page, "total")) as { value: number }[])[0]?.value;
  const box = await plot(page, "free").boundingBox();
  if (!box) throw new Error("free is not in sight");
  await page.mouse.move(box.x + box.width * 0.2, box.y + 60);
  await expect.poll(total).toBe(3);
  await page.mouse.move(box.x + box.width * 0.5, box.y + 60);
  await expect.poll(total).toBe(9);
  await page.mouse.move(2, 2);
  await expect.poll(total).toBe(21);
});
