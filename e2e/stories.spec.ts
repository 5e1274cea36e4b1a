import { readFileSync } from "node:fs";
import { expect, type Page, test } from "@playwright/test";
import Papa from "papaparse";
import { drag, expectNoNoise, leftOf, openFile, piece, plot, rowsOf, stateOf } from "./dashboard";

/** The small reports of `examples/`, each one story, told with real pointers and keys against a recount of its file. */

type Row = Record<string, string>;

function fileRows(path: string): Row[] {
  const text = readFileSync(`examples/${path}`, "utf8");
  return Papa.parse<Row>(text, { header: true, skipEmptyLines: true }).data;
}
const sum = (rows: readonly Row[], key: string) => rows.reduce((total, row) => total + Number(row[key]), 0);
const count = (rows: readonly Row[], key: string, value: string) => rows.filter((row) => row[key] === value).length;

type Shown = Record<string, string | number | boolean | null>;
const shown = async (page: Page, name: string) => (await rowsOf(page, name)) as Shown[];

/** Moves the pointer from mark to mark of a chart by keys until its tooltip says the words. */
async function walkTo(page: Page, name: string, words: string) {
  await plot(page, name).focus();
  await page.keyboard.press("Home");
  for (let step = 0; step < 200; step++) {
    if ((await page.locator(".tip").textContent())?.includes(words)) return;
    await page.keyboard.press("ArrowRight");
  }
  throw new Error(`no mark of ${name} says ${words}`);
}

test("overview and detail: the stretch drawn below is looked at above, and fades what is not in it", async ({
  context,
}) => {
  const opened = await openFile(context, "hillside-weather.html");
  const { page } = opened;
  const days = fileRows("hillside-weather/days.csv");
  const before = await piece(page, "detail").locator("svg.over text").allTextContents();
  await drag(page, "overview", 0.2, 0.4);
  const { overview } = (await stateOf(page)) as { overview: { x: [string, string] } };
  const inside = days.filter(({ day = "" }) => day >= overview.x[0].slice(0, 10) && day < overview.x[1].slice(0, 10));
  expect(inside.length).toBeGreaterThan(200);
  const winds = await shown(page, "winds");
  expect(winds.filter(({ picked }) => picked)).toHaveLength(inside.filter((row) => row.mean_c && row.wind_ms).length);
  expect(winds.length).toBeGreaterThan(2000);
  for (const { y, x } of await shown(page, "wettest"))
    expect(x).toBeCloseTo(
      sum(
        inside.filter(({ station }) => station === y),
        "rain_mm",
      ),
      6,
    );
  expect(await piece(page, "detail").locator("svg.over text").allTextContents()).not.toEqual(before);
  // Looking closer leaves no rows out.
  expect(await shown(page, "detail")).toHaveLength(days.filter(({ mean_c }) => mean_c).length);
  await drag(page, "overview", 0.3, 0.5);
  const moved = ((await stateOf(page)) as { overview: { x: [string, string] } }).overview.x;
  expect(Date.parse(moved[0])).toBeGreaterThan(Date.parse(overview.x[0]));
  expectNoNoise(opened);
});

test("points under a box are read as rows below, and followed as the box is dragged along", async ({ context }) => {
  const { page } = await openFile(context, "bakery-waste.html");
  const sheets = fileRows("bakery-waste/sheets.csv");
  const inBox = ({ x, y }: { x: [number, number]; y: [number, number] }) =>
    sheets.filter((row) => {
      const [baked, part] = [Number(row.baked), Number(row.left_over) / Number(row.baked)];
      return baked >= x[0] && baked < x[1] && part >= y[0] && part < y[1];
    });
  for (const [from, to, height, end] of [
    [0.3, 0.5, 0.3, 0.8],
    [0.4, 0.6, 0.5, 0.5],
  ] as const) {
    await drag(page, "waste", from, to, height, end);
    const { waste } = (await stateOf(page)) as { waste: { x: [number, number]; y: [number, number] } };
    const wanted = inBox(waste);
    expect(wanted.length).toBeGreaterThan(5);
    const read = await shown(page, "read");
    expect(read.map(({ sheet }) => String(sheet))).toEqual(wanted.map(({ sheet }) => sheet));
    const thrown = await shown(page, "thrown");
    expect(thrown[0]?.value).toBeCloseTo(sum(wanted, "left_over") / sum(wanted, "baked"), 9);
    await expect(piece(page, "read").getByText(`take all ${wanted.length}`)).toBeVisible();
  }
});

test("a pressed bar shows another chart for it alone, and words say which", async ({ context }) => {
  const { page } = await openFile(context, "library-loans.html");
  const loans = fileRows("library-loans/loans.csv");
  expect(await shown(page, "months")).toEqual([]);
  await expect(piece(page, "months")).toContainText("Press a branch at the left");
  const box = await plot(page, "branches").boundingBox();
  if (!box) throw new Error("branches are not in sight");
  await page.mouse.click(box.x + box.width * 0.3, box.y + box.height * 0.27);
  const own = loans.filter(({ branch }) => branch === "Harrow Hill");
  await expect(piece(page, "months").getByRole("heading")).toHaveText("Loans of Harrow Hill, by month");
  const months = await shown(page, "months");
  for (const shelf of ["fiction", "children", "science", "travel"]) {
    const total = months.filter(({ color }) => color === shelf).reduce((all, { y }) => all + Number(y), 0);
    expect(total).toBe(count(own, "shelf", shelf));
  }
  await expect(piece(page, "said")).toContainText(`Harrow Hill lent ${own.length} times`);
  await walkTo(page, "branches", "Priory");
  await page.keyboard.press("Enter");
  await expect(piece(page, "months").getByRole("heading")).toHaveText("Loans of Priory, by month");
  expect(await shown(page, "said")).toMatchObject([{ n: count(loans, "branch", "Priory") }]);
});

test("an orchard pressed on the map is named among its neighbours, along the axis that the reader chooses", async ({
  context,
}) => {
  const { page } = await openFile(context, "orchards.html");
  const orchards = fileRows("orchards/orchards.csv");
  await walkTo(page, "where", "West Rigg of Coldwater");
  await page.keyboard.press("Enter");
  const valley = orchards.filter(({ valley: own }) => own === "Coldwater");
  const neighbours = await shown(page, "neighbours");
  expect(neighbours).toHaveLength(valley.length);
  expect(neighbours.filter(({ picked }) => picked)).toHaveLength(1);
  await expect(piece(page, "neighbours").getByRole("heading")).toHaveText(
    "West Rigg of Coldwater among its neighbours of Coldwater",
  );
  await expect(piece(page, "neighbours").locator("svg text", { hasText: "West Rigg of Coldwater" })).toHaveCount(1);
  await page.getByRole("combobox", { name: "Across" }).selectOption({ label: "Planted" });
  // The one that is highlighted is drawn on top, after the others.
  const drawn = (await shown(page, "neighbours")).map(({ x }) => String(x));
  expect(drawn.sort()).toEqual(valley.map(({ planted = "" }) => planted).sort());
  await expect(piece(page, "neighbours")).toContainText("against Planted");
  expect((await shown(page, "list")).map(({ orchard }) => orchard)).toEqual(valley.map(({ orchard }) => orchard));
});

test("a legend takes a line away and the axis closes; another only fades", async ({ context }) => {
  const { page } = await openFile(context, "ferry-lines.html");
  const passengers = fileRows("ferry-lines/passengers.csv");
  const ticks = () => piece(page, "course").locator("svg.over text").allTextContents();
  expect(await ticks()).toContain("30,000");
  const course = piece(page, "course").getByRole("group");
  await course.getByRole("button", { name: "Long Reach", exact: true }).click();
  await expect.poll(ticks).not.toContain("30,000");
  const rest = passengers.filter(({ line }) => line !== "Long Reach");
  expect(await shown(page, "total")).toEqual([{ value: sum(rest, "passengers") }]);
  expect(await shown(page, "course")).toHaveLength(rest.length);
  const years = piece(page, "years").getByRole("group");
  await years.getByRole("button", { name: "Seal", exact: true }).press("Enter");
  const bars = await shown(page, "years");
  expect(bars).toHaveLength(16);
  expect(bars.filter(({ faded }) => faded).map(({ color }) => color)).toEqual(["Seal", "Seal", "Seal", "Seal"]);
  await course.getByRole("button", { name: "Kelp Point", exact: true }).focus();
  await page.keyboard.press("o");
  expect(await shown(page, "total")).toEqual([
    {
      value: sum(
        passengers.filter(({ line }) => line === "Kelp Point"),
        "passengers",
      ),
    },
  ]);
});

test("a leg of the table lights on map and profile; the rule of the profile marks the place", async ({ context }) => {
  const { page } = await openFile(context, "ridge-walk.html");
  const legs = piece(page, "legs_list").getByRole("row");
  const lit = async (name: string) => (await shown(page, name)).filter(({ picked }) => picked);
  expect(await lit("way")).toEqual([]);
  await legs.nth(4).hover();
  await expect.poll(async () => (await lit("way")).length).toBeGreaterThan(20);
  const inLeg = await lit("profile");
  for (const { x } of inLeg) expect(Math.floor(Number(x))).toBe(3);
  await legs.nth(6).focus();
  await expect.poll(async () => Math.floor(Number((await lit("profile"))[0]?.x))).toBe(5);
  await page.mouse.move(2, 2);
  await plot(page, "profile").hover({ position: { x: 300, y: 60 } });
  await expect.poll(async () => (await lit("way")).length).toBe(1);
  await expect(piece(page, "profile").locator("svg.over line")).toHaveCount(1);
  await page.mouse.move(2, 2);
  await expect.poll(async () => (await lit("way")).length).toBe(0);
});

test("ticks, a typed menu, a slider with two ends and a search leave what a recount leaves", async ({ context }) => {
  const { page } = await openFile(context, "evening-school.html");
  const courses = fileRows("evening-school/courses.csv");
  await page.getByRole("checkbox", { name: "Tuesday" }).click();
  await page.getByRole("checkbox", { name: "Friday" }).press("Space");
  let left = courses.filter(({ weekday }) => weekday === "Tuesday" || weekday === "Friday");
  expect(await leftOf(page, "courses")).toBe(left.length);
  await page.getByRole("combobox", { name: "Subject" }).click();
  await page.keyboard.type("pot");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  left = left.filter(({ subject }) => subject === "pottery");
  expect(await leftOf(page, "courses")).toBe(left.length);
  const low = page.getByRole("slider", { name: "Fee, from" });
  await low.focus();
  for (let press = 0; press < 8; press++) await page.keyboard.press("PageUp");
  const fee = ((await stateOf(page)) as { fee: { from: number } }).fee.from;
  expect(fee).toBeGreaterThan(42);
  left = left.filter((row) => Number(row.fee) >= fee);
  expect(await leftOf(page, "courses")).toBe(left.length);
  await expect(page.getByRole("status").first()).toContainText(`${left.length} of 420 courses`);
  await page.getByRole("searchbox", { name: "Find" }).fill("bell");
  left = left.filter((row) => row.teacher?.toLowerCase().includes("bell"));
  await expect.poll(() => leftOf(page, "courses")).toBe(left.length);
  expect((await shown(page, "list")).map(({ course }) => String(course))).toEqual(left.map(({ course }) => course));
  await page.getByRole("button", { name: "clear all" }).click();
  expect(await leftOf(page, "courses")).toBe(courses.length);
});

test("at least, at most and the choice of axes", async ({ context }) => {
  const { page } = await openFile(context, "lamp-catalogue.html");
  const lamps = fileRows("lamp-catalogue/lamps.csv");
  const typed = page.locator('[data-control="price"]').getByRole("spinbutton");
  await typed.fill("8");
  await typed.press("Enter");
  await page.getByRole("slider", { name: "Life at least" }).focus();
  for (let press = 0; press < 4; press++) await page.keyboard.press("PageUp");
  const least = ((await stateOf(page)) as { life: number }).life;
  const left = lamps.filter((row) => Number(row.price) <= 8 && row.life_h !== "" && Number(row.life_h) >= least);
  expect(left.length).toBeGreaterThan(3);
  expect(left.length).toBeLessThan(lamps.filter((row) => Number(row.price) <= 8).length);
  expect(await leftOf(page, "lamps")).toBe(left.length);
  await page.getByRole("combobox", { name: "Up" }).selectOption({ label: "Price" });
  await expect(piece(page, "lamps_drawn").getByRole("heading")).toHaveText("Price against Power");
  expect((await shown(page, "lamps_drawn")).map(({ y }) => y)).toEqual(left.map(({ price }) => Number(price)));
  const best = left.map((row) => Number(row.lumens) / Number(row.watts)).sort((a, b) => b - a);
  expect((await shown(page, "best")).map(({ x }) => x)).toEqual(best.slice(0, 8));
});

test("bins, span, kernel and width by slider, while they move", async ({ context }) => {
  const { page } = await openFile(context, "kiln-firings.html");
  const firings = fileRows("kiln-firings/firings.csv");
  await page.getByRole("slider", { name: "Bars" }).fill("7");
  await expect.poll(async () => (await shown(page, "histogram")).length).toBe(7);
  const bars = await shown(page, "histogram");
  expect(bars.reduce((all, { y }) => all + Number(y), 0)).toBe(firings.length);
  const curve = async () => (await shown(page, "gas")).filter(({ layer }) => layer === 1).map(({ y }) => Number(y));
  const wobble = (values: number[]) =>
    values
      .slice(2)
      .reduce((all, y, at) => all + Math.abs(y - 2 * (values[at + 1] as number) + (values[at] as number)), 0);
  await page.getByRole("slider", { name: "Span" }).fill("0.1");
  const rough = wobble(await curve());
  await page.getByRole("slider", { name: "Span" }).fill("1");
  expect(wobble(await curve())).toBeLessThan(rough / 2);
  const tops = async () => Math.max(...(await shown(page, "spread")).map(({ y }) => Number(y)));
  const usual = await tops();
  await page.getByRole("slider", { name: "Width" }).fill("3");
  expect(await tops()).toBeLessThan(usual);
  const gaussian = await shown(page, "spread");
  await page.getByRole("combobox", { name: "Kernel" }).selectOption("uniform");
  expect(await shown(page, "spread")).not.toEqual(gaussian);
  await page.getByRole("switch", { name: "Curve" }).click();
  await expect.poll(async () => (await curve()).length).toBe(0);
});

test("rows picked in the list show where they began and ended", async ({ context }) => {
  const { page } = await openFile(context, "parcel-rounds.html");
  const rounds = fileRows("parcel-rounds/rounds.csv");
  expect(await shown(page, "ends")).toEqual([]);
  const rows = piece(page, "list").getByRole("row");
  await rows.nth(3).click();
  await rows.nth(6).click({ modifiers: ["Shift"] });
  const picked = [rounds[2], rounds[5]] as Row[];
  const ends = await shown(page, "ends");
  const at = (layer: string) => ends.filter((row) => row.layer === layer).map(({ lon, lat }) => [lon, lat]);
  expect(at("start")).toEqual(picked.map((row) => [Number(row.start_lon), Number(row.start_lat)]));
  expect(at("end")).toEqual(picked.map((row) => [Number(row.end_lon), Number(row.end_lat)]));
  expect(ends.filter(({ layer }) => layer === "between")).toHaveLength(2);
  await page.keyboard.press("Escape");
  expect(await shown(page, "ends")).toEqual([]);
});

test("drawing again gives other numbers, and the same ones in a copy of the address", async ({ context }) => {
  const { page } = await openFile(context, "savings-draws.html");
  const half = async () => Number((await shown(page, "half"))[0]?.value);
  const first = await half();
  expect(await shown(page, "paths")).toHaveLength(4000);
  await page.getByRole("button", { name: "Draw again" }).click();
  await expect.poll(half).not.toBe(first);
  await page.getByRole("slider", { name: "Spread (%)" }).fill("0");
  await page.getByRole("slider", { name: "Mean return (%)" }).fill("0");
  // Without chance or return only what was paid is there.
  await expect.poll(half).toBe(1000 * 19 + (await firstYear(page)));
  await page.getByRole("slider", { name: "Spread (%)" }).fill("12");
  const other = await half();
  const copy = await openFile(context, "savings-draws.html", await page.evaluate(() => location.hash));
  expect(Number((await shown(copy.page, "half"))[0]?.value)).toBe(other);
});

/** The balance that every life begins with. */
async function firstYear(page: Page): Promise<number> {
  return Math.min(...(await shown(page, "paths")).map(({ y }) => Number(y)));
}
