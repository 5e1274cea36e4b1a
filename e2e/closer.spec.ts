import { readFileSync, writeFileSync } from "node:fs";
import { expect, type Page, test } from "@playwright/test";
import AxeSource from "axe-core";
import { writeCloser } from "./closer";
import { expectNoNoise, menu, openFile, piece, plot, rowsOf, stateOf } from "./dashboard";
import { OUT, still } from "./prepare";

test.beforeAll(() => {
  writeCloser();
  const built = still("build", `${OUT}/closer.still.yaml`);
  expect(built.stderr).not.toContain("error");
});

/** Months of the line in which there is something. */
const drawn = async (page: Page) => (await rowsOf(page, "months")).filter(({ y }) => y !== 0);

const ids = async (page: Page) => (await rowsOf(page, "list")).map(({ id }) => id);

test("a link begins with what the sheet says, and what is turned off stays so", async ({ context }) => {
  const opened = await openFile(context, "closer.html");
  const { page } = opened;
  expect(await rowsOf(page, "n")).toEqual([{ value: 20 }]);
  await expect(page.getByRole("button", { name: "clear all" })).toHaveCount(0);
  await page.getByRole("button", { name: "drop ship is Heron" }).click();
  expect(await rowsOf(page, "n")).toEqual([{ value: 60 }]);
  expect(await stateOf(page)).toMatchObject({ ships: null });
  await page.reload();
  await page.evaluate(() => window.stillHarbor.ready);
  expect(await rowsOf(page, "n")).toEqual([{ value: 60 }]);
  await page.getByRole("button", { name: "clear all" }).click();
  expect(await rowsOf(page, "n")).toEqual([{ value: 20 }]);
  expectNoNoise(opened, 2);
});

test("a chart is looked at closer by drag and keys, and no row goes", async ({ context }) => {
  const { page } = await openFile(context, "closer.html");
  const before = await rowsOf(page, "dots");
  await menu(page, "dots", "look closer");
  const box = await plot(page, "dots").boundingBox();
  if (!box) throw new Error("no plot");
  await page.mouse.move(box.x + 60, box.y + 60);
  await page.mouse.down();
  await page.mouse.move(box.x + 160, box.y + 140, { steps: 6 });
  await page.mouse.up();
  const zoomed = await stateOf(page);
  expect(Object.keys(zoomed["dots.zoom"] as object)).toEqual(["x", "y"]);
  expect(await rowsOf(page, "dots")).toEqual(before);
  await page.reload();
  await page.evaluate(() => window.stillHarbor.ready);
  expect(await stateOf(page)).toEqual(zoomed);
  await piece(page, "dots").getByRole("button", { name: "show all" }).click();
  expect(await stateOf(page)).not.toHaveProperty(["dots.zoom"]);
  await plot(page, "dots").focus();
  await menu(page, "dots", "look closer");
  await plot(page, "dots").focus();
  await page.keyboard.press("+");
  expect(await stateOf(page)).toHaveProperty(["dots.zoom"]);
  await page.keyboard.press("0");
  expect(await stateOf(page)).not.toHaveProperty(["dots.zoom"]);
});

test("an outline holds the rows in it, by pointer and by keys, and stands in the address", async ({ context }) => {
  const { page } = await openFile(context, "closer.html", "#ships=~none");
  const box = await plot(page, "dots").boundingBox();
  if (!box) throw new Error("no plot");
  const corners = [
    [0.2, 0.1],
    [0.6, 0.1],
    [0.6, 0.6],
    [0.2, 0.6],
  ].map(([x = 0, y = 0]) => [box.x + box.width * x, box.y + box.height * y] as const);
  await page.mouse.move(...(corners[0] as [number, number]));
  await page.mouse.down();
  for (const [x, y] of [...corners.slice(1), corners[0] as (typeof corners)[number]])
    await page.mouse.move(x, y, { steps: 10 });
  await page.mouse.up();
  const held = ((await stateOf(page)).around as { outline: [number, number][] }).outline;
  const [xs, ys] = [held.map(([x]) => x), held.map(([, y]) => y)];
  const rows = (await rowsOf(page, "dots")) as { x: number; y: number }[];
  const inside = rows.filter(
    ({ x, y }) => x > Math.min(...xs) && x < Math.max(...xs) && y > Math.min(...ys) && y < Math.max(...ys),
  );
  expect(inside.length).toBeGreaterThan(3);
  expect(await rowsOf(page, "n")).toEqual([{ value: inside.length }]);
  await page.reload();
  await page.evaluate(() => window.stillHarbor.ready);
  expect(await rowsOf(page, "n")).toEqual([{ value: inside.length }]);
  await plot(page, "dots").focus();
  await page.keyboard.press("b");
  const list = await ids(page);
  for (let turn = 0; turn < 6; turn++) await page.keyboard.press("ArrowRight");
  expect(await ids(page)).not.toEqual(list);
});

test("a brush over sums holds the groups in it, by hand and by script", async ({ context }) => {
  const { page } = await openFile(context, "closer.html", "#ships=~none");
  const sums = (await rowsOf(page, "sums")) as { x: string; y: number }[];
  const [least] = [...sums].sort((a, b) => a.y - b.y);
  await page.evaluate((y) => window.stillHarbor.select("sums", { y: [0, y + 0.5] }), least?.y ?? 0);
  expect((await stateOf(page)).sums).toEqual({ keys: [{ ship: least?.x }] });
  expect(await rowsOf(page, "n")).toEqual([{ value: 20 }]);
});

test("tabs take turns, are kept, and answer while they are hidden", async ({ context }) => {
  const { page } = await openFile(context, "closer.html", "#ships=~none");
  await expect(piece(page, "list")).toBeHidden();
  expect(await rowsOf(page, "list")).toHaveLength(60);
  await page
    .getByRole("tab", { name: "By month" })
    .or(page.getByRole("tab", { name: "Months" }))
    .focus();
  await page.keyboard.press("ArrowRight");
  await expect(page.getByRole("tab", { name: "Pair" })).toHaveAttribute("aria-selected", "true");
  await expect(piece(page, "list")).toBeVisible();
  expect(await stateOf(page)).toMatchObject({ detail: "pair" });
  // Rows with an identity are the same in every build.
  await piece(page, "list").getByRole("row", { name: /^s4 / }).click();
  expect((await stateOf(page)).list).toEqual({ keys: [{ id: "s4" }] });
  await page.reload();
  await page.evaluate(() => window.stillHarbor.ready);
  await expect(piece(page, "list")).toBeVisible();
  expect(await drawn(page)).toHaveLength(1);
});

test("a list of columns is taken by the reader", async ({ context }) => {
  const { page } = await openFile(context, "closer.html", "#ships=~none&detail=pair");
  expect(await rowsOf(page, "grouped")).toHaveLength(3);
  await page.getByRole("checkbox", { name: "day" }).check();
  expect(Object.keys((await rowsOf(page, "grouped"))[0] ?? {})).toEqual(["ship", "day", "count()"]);
  expect(await stateOf(page)).toMatchObject({ keys: ["ship", "day"] });
  await page.evaluate(() => window.stillHarbor.set("keys", []));
  expect(await rowsOf(page, "grouped")).toEqual([{ "count()": 60 }]);
});

test("views, either ground, and how the report was made are in the page's menus", async ({ context }) => {
  const { page } = await openFile(context, "closer.html");
  await page.getByRole("button", { name: "Saved views" }).click();
  await page.getByRole("menuitem", { name: "Deep Otters" }).click();
  expect(await stateOf(page)).toMatchObject({ ships: { keys: [{ ship: "Otter" }] }, "dots.zoom": { x: [20, 50] } });
  await page.goBack();
  expect(await stateOf(page)).not.toHaveProperty(["dots.zoom"]);
  await page.getByRole("button", { name: "Page menu" }).click();
  await page.getByRole("menuitem", { name: "dark ground" }).click();
  expect(await page.evaluate(() => getComputedStyle(document.documentElement).colorScheme)).toBe("dark");
  await page.evaluate(AxeSource.source);
  const found = await page.evaluate(() => (window as unknown as { axe: typeof AxeSource }).axe.run());
  expect(found.violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html.slice(0, 120))])).toEqual([]);
  await page.getByRole("button", { name: "Page menu" }).click();
  await page.getByRole("menuitem", { name: "how this was made" }).click();
  await expect(page.getByRole("contentinfo")).toContainText("Below the surface alone");
  await expect(page.getByRole("contentinfo")).toContainText("60 rows written in the sheet");
});

test("rows behind a chart are seen and taken, with what comes along, and so is its picture", async ({ context }) => {
  const { page } = await openFile(context, "closer.html");
  await menu(page, "dots", /rows as a table/);
  const rows = page.getByRole("dialog", { name: "Rows of Dots" });
  await expect(rows.getByRole("columnheader", { name: "day" })).toBeVisible();
  await expect(rows).toContainText("20 rows");
  await page.keyboard.press("Escape");
  await expect(rows).toHaveCount(0);
  const taken = page.waitForEvent("download");
  await menu(page, "sums", /^CSV/);
  const path = await (await taken).path();
  expect(readFileSync(path, "utf8")).toContain("ship,sum(depth)\r\nHeron,");
  const drawn = page.waitForEvent("download");
  await menu(page, "dots", "picture, SVG");
  const svg = readFileSync(await (await drawn).path(), "utf8");
  expect(svg).toContain(">Dots</text>");
  expect(svg).toContain(">Made up</text>");
  const png = page.waitForEvent("download");
  await menu(page, "ships", "picture, PNG");
  expect([...readFileSync(await (await png).path()).subarray(1, 4)]).toEqual([...Buffer.from("PNG")]);
});

test("where nothing passes the page says what to drop; the ends of a brush can be typed", async ({ context }) => {
  const { page } = await openFile(context, "closer.html");
  await page.evaluate(() => window.stillHarbor.select("list", { keys: [{ id: "s3" }] }));
  const empty = piece(page, "months").getByRole("group", { name: "No rows pass" });
  await expect(empty).toBeVisible();
  await empty.getByRole("button", { name: "drop ship is Heron" }).click();
  await expect(empty).toHaveCount(0);
  expect(await drawn(page)).toHaveLength(1);
});

test("nothing of a comment leaves, and a file for each ship holds that ship alone", () => {
  expect(readFileSync(`${OUT}/closer.html`, "utf8")).not.toContain("canary");
  const text = `${readFileSync(`${OUT}/closer.still.yaml`, "utf8")
    .replace(", start: Heron", "")
    .replace(/^views.*\n/m, "")}editions: {by: ship, file: "Report {ship}"}\n`;
  writeFileSync(`${OUT}/editions.still.yaml`, text);
  const built = still("build", `${OUT}/editions.still.yaml`, "-o", `${OUT}/editions`);
  expect(built.status).toBe(0);
  expect(built.stderr).toContain("4 of 4: ");
  const gull = readFileSync(`${OUT}/editions/Report-Gull.html`, "utf8");
  expect(gull).toContain("<title>Soundings: Gull</title>");
  for (const other of ["Otter", "Heron", '"s1"']) expect(gull).not.toContain(other);
  expect(readFileSync(`${OUT}/editions/index.html`, "utf8")).toContain('<a href="Report-Otter.html">Otter</a>');
});

test("columns of a data table are moved and widened, and taken in the order shown", async ({ context }) => {
  const { page } = await openFile(context, "closer.html", "#ships=~none&detail=pair");
  const heads = () => piece(page, "list").getByRole("columnheader").allTextContents();
  expect(await heads()).toEqual(["id", "ship", "depth"]);
  await piece(page, "list").getByRole("button", { name: "depth" }).focus();
  await page.keyboard.press("Alt+ArrowLeft");
  expect(await heads()).toEqual(["id", "depth", "ship"]);
  const [from, to] = await Promise.all(
    ["ship", "id"].map((name) => piece(page, "list").getByRole("columnheader", { name, exact: true }).boundingBox()),
  );
  if (!from || !to) throw new Error("no heads");
  await page.mouse.move(from.x + 20, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(to.x + 4, to.y + 8, { steps: 8 });
  await page.mouse.up();
  expect(await heads()).toEqual(["ship", "id", "depth"]);
  expect(Object.keys((await rowsOf(page, "list"))[0] ?? {})).toEqual(["ship", "id", "depth"]);
  await piece(page, "list").getByRole("separator", { name: "Width of ship" }).focus();
  await page.keyboard.press("ArrowRight");
  // The edge stays under the pointer, however much room the other columns leave.
  const ship = piece(page, "list").getByRole("columnheader", { name: "ship", exact: true });
  const narrow = await ship.boundingBox();
  if (!narrow) throw new Error("no head");
  const edge = narrow.x + narrow.width - 2;
  await page.mouse.move(edge, narrow.y + 8);
  await page.mouse.down();
  await page.mouse.move(edge + 40, narrow.y + 8, { steps: 4 });
  await page.mouse.up();
  expect(Math.abs(((await ship.boundingBox())?.width ?? 0) - narrow.width - 40)).toBeLessThan(3);
  const kept = (await stateOf(page))["list.columns"];
  expect(kept).toMatch(/^ship:\d+,id,depth$/);
  await page.reload();
  await page.evaluate(() => window.stillHarbor.ready);
  expect(await heads()).toEqual(["ship", "id", "depth"]);
  await piece(page, "list").getByRole("button", { name: "ship" }).click();
  expect(await stateOf(page)).toMatchObject({ "list.sort": "ship", "list.columns": kept });
});

test("what a script asks of a selection is held, or refused with words", async ({ context }) => {
  const { page } = await openFile(context, "closer.html");
  const refused = (name: string, what: unknown) =>
    page.evaluate(
      ([of, asked]) =>
        window.stillHarbor.select(of, asked).then(
          () => "held",
          (error: Error) => error.message,
        ),
      [name, what] as [string, { keys: [] }],
    );
  const takes = "select takes {x: [from, to]}, {y: …} or {keys: [{column: value}]}";
  for (const odd of [null, "all", [1, 2], {}, { keys: { ship: "Otter" } }, { keys: ["Otter"] }, { keys: [{}] }])
    expect(await refused("ships", odd)).toBe(takes);
  expect(await refused("ships", { x: 3 })).toBe('"ships" takes ends of a range on x');
  expect(await refused("ships", { keys: [{ boat: "Otter" }] })).toBe('"boat" is no column of soundings in this file');
  expect(await rowsOf(page, "n")).toEqual([{ value: 20 }]);
  expect(await refused("ships", { keys: [{ ship: "Otter" }] })).toBe("held");
});
