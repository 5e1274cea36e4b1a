import { writeFileSync } from "node:fs";
import { expect, type Locator, type Page, test } from "@playwright/test";
import { expectNoNoise, leftOf, openFile, piece, plot, rowsOf, stateOf } from "./dashboard";
import { OUT, still } from "./prepare";

/** Every story of the small reports, told from the first key to the last without a pointer. */

type Shown = Record<string, string | number | boolean | null>;
const shown = async (page: Page, name: string) => (await rowsOf(page, name)) as Shown[];

/** More presses of Tab than any of these pages has stops. */
const MOST_STOPS = 160;

/** Goes on with Tab, from where the focus is, until it stands on something; focus can be seen there. */
async function tabTo(page: Page, wanted: Locator) {
  for (let stop = 0; stop < MOST_STOPS; stop++) {
    if (await wanted.evaluate((own) => own === document.activeElement)) {
      const outline = await wanted.evaluate((own) => {
        const { outlineStyle, boxShadow } = getComputedStyle(own);
        return outlineStyle !== "none" || boxShadow !== "none" || own.matches("input, select");
      });
      expect(outline).toBe(true);
      return;
    }
    await page.keyboard.press("Tab");
  }
  throw new Error(`Tab does not come to ${wanted}`);
}

async function press(page: Page, key: string, times = 1) {
  for (let time = 0; time < times; time++) await page.keyboard.press(key);
}

/** Walks the marks of the chart in focus until what is read out speaks of the words. */
async function walkTo(page: Page, words: string) {
  await press(page, "Home");
  for (let step = 0; step < 200; step++) {
    if ((await page.locator(".tip").textContent())?.includes(words)) return;
    await press(page, "ArrowRight");
  }
  throw new Error(`no mark says ${words}`);
}

test("a stretch is drawn, widened, moved and dropped", async ({ context }) => {
  const { page } = await openFile(context, "hillside-weather.html");
  await tabTo(page, plot(page, "overview"));
  await press(page, "b");
  await press(page, "Shift+ArrowRight", 4);
  const drawn = ((await stateOf(page)) as { overview: { x: [string, string] } }).overview.x;
  expect(Date.parse(drawn[1])).toBeGreaterThan(Date.parse(drawn[0]));
  const winds = await shown(page, "winds");
  expect(winds.filter(({ picked }) => picked).length).toBeLessThan(winds.length);
  await press(page, "ArrowRight", 3);
  const moved = ((await stateOf(page)) as { overview: { x: [string, string] } }).overview.x;
  expect(Date.parse(moved[0])).toBeGreaterThan(Date.parse(drawn[0]));
  await press(page, "Escape");
  expect((await stateOf(page)).overview).toBeUndefined();
});

test("a box is drawn over points and its rows are read", async ({ context }) => {
  const { page } = await openFile(context, "bakery-waste.html");
  await tabTo(page, plot(page, "waste"));
  await press(page, "b");
  await press(page, "Shift+ArrowRight", 3);
  await press(page, "Shift+ArrowUp", 3);
  const { waste } = (await stateOf(page)) as { waste: { x: number[]; y: number[] } };
  expect(waste.x).toHaveLength(2);
  expect(waste.y).toHaveLength(2);
  const inside = (await shown(page, "waste")).filter(
    ({ x, y }) =>
      Number(x) >= (waste.x[0] ?? 0) &&
      Number(x) < (waste.x[1] ?? 0) &&
      Number(y) >= (waste.y[0] ?? 0) &&
      Number(y) < (waste.y[1] ?? 0),
  );
  expect((await leftOf(page, "sheets")) ?? 0).toBeGreaterThan(0);
  expect(inside.length).toBeGreaterThan(0);
});

test("a bar is picked and another chart is for it alone", async ({ context }) => {
  const { page } = await openFile(context, "library-loans.html");
  await tabTo(page, plot(page, "branches"));
  await walkTo(page, "Priory");
  await press(page, "Enter");
  await expect(piece(page, "months").getByRole("heading")).toHaveText("Loans of Priory, by month");
});

test("a place of the map is picked, the axis chosen", async ({ context }) => {
  const { page } = await openFile(context, "orchards.html");
  await tabTo(page, plot(page, "where"));
  await walkTo(page, "West Rigg of Coldwater");
  await press(page, "Enter");
  await expect(piece(page, "neighbours").getByRole("heading")).toContainText("West Rigg of Coldwater");
  const across = page.getByRole("combobox", { name: "Across" });
  await tabTo(page, across);
  await page.keyboard.type("Pl");
  await press(page, "Enter");
  await expect(piece(page, "neighbours")).toContainText("against Planted");
});

test("a line is taken out of a legend, left alone, and brought back", async ({ context }) => {
  const { page } = await openFile(context, "ferry-lines.html");
  const legend = piece(page, "course").getByRole("group");
  const all = (await shown(page, "course")).length;
  await tabTo(page, legend.getByRole("button", { name: "Long Reach", exact: true }));
  await press(page, "Enter");
  expect((await shown(page, "course")).length).toBeLessThan(all);
  await press(page, "o");
  expect(new Set((await shown(page, "course")).map(({ color }) => color))).toEqual(new Set(["Long Reach"]));
  await tabTo(page, page.getByRole("button", { name: "clear all" }));
  await press(page, "Enter");
  expect(await shown(page, "course")).toHaveLength(all);
});

test("legs of a walk light up row by row, and the rule runs along the profile", async ({ context }) => {
  const { page } = await openFile(context, "ridge-walk.html");
  const lit = async (name: string) => (await shown(page, name)).filter(({ picked }) => picked).length;
  await tabTo(page, piece(page, "legs_list").getByRole("row").nth(1));
  await expect.poll(() => lit("way")).toBeGreaterThan(10);
  const first = (await shown(page, "way")).filter(({ picked }) => picked)[0];
  await press(page, "ArrowDown");
  await expect.poll(async () => (await shown(page, "way")).filter(({ picked }) => picked)[0]).not.toEqual(first);
  await tabTo(page, plot(page, "profile"));
  await press(page, "ArrowRight", 3);
  await expect(piece(page, "profile").locator("svg.over line")).toHaveCount(1);
});

test("days are ticked, a subject typed, a fee moved, a teacher sought, all cleared", async ({ context }) => {
  const { page } = await openFile(context, "evening-school.html");
  const all = await leftOf(page, "courses");
  await tabTo(page, page.getByRole("checkbox", { name: "Tuesday" }));
  await press(page, "Space");
  const ticked = (await leftOf(page, "courses")) ?? 0;
  expect(ticked).toBeLessThan(all ?? 0);
  await tabTo(page, page.getByRole("combobox", { name: "Subject" }));
  await page.keyboard.type("pot");
  await press(page, "ArrowDown");
  await press(page, "Enter");
  expect((await leftOf(page, "courses")) ?? 0).toBeLessThan(ticked);
  await tabTo(page, page.getByRole("slider", { name: "Fee, from" }));
  await press(page, "PageUp", 2);
  expect(((await stateOf(page)) as { fee: { from: number } }).fee.from).toBeGreaterThan(0);
  await tabTo(page, page.getByRole("searchbox", { name: "Find" }));
  await page.keyboard.type("zzz");
  await expect.poll(() => leftOf(page, "courses")).toBe(0);
  await press(page, "Control+a");
  await press(page, "Backspace");
  await press(page, "Shift+Tab");
  await tabTo(page, page.getByRole("button", { name: "clear all" }));
  await press(page, "Enter");
  expect(await leftOf(page, "courses")).toBe(all);
});

test("a bound is typed, another moved, an axis chosen", async ({ context }) => {
  const { page } = await openFile(context, "lamp-catalogue.html");
  const all = (await leftOf(page, "lamps")) ?? 0;
  await tabTo(page, page.locator('[data-control="price"]').getByRole("spinbutton"));
  await press(page, "Control+a");
  await page.keyboard.type("8");
  await press(page, "Enter");
  const cheap = (await leftOf(page, "lamps")) ?? 0;
  expect(cheap).toBeLessThan(all);
  await tabTo(page, page.getByRole("slider", { name: "Life at least" }));
  await press(page, "PageUp", 4);
  expect((await leftOf(page, "lamps")) ?? 0).toBeLessThan(cheap);
  await tabTo(page, page.getByRole("combobox", { name: "Up" }));
  await page.keyboard.type("Pri");
  await expect(piece(page, "lamps_drawn").getByRole("heading")).toHaveText("Price against Power");
});

test("bars are set, a kernel chosen, a curve switched off", async ({ context }) => {
  const { page } = await openFile(context, "kiln-firings.html");
  const bars = (await shown(page, "histogram")).length;
  await tabTo(page, page.getByRole("slider", { name: "Bars" }));
  await press(page, "ArrowLeft", 3);
  expect((await shown(page, "histogram")).length).toBeLessThan(bars);
  const spread = await shown(page, "spread");
  await tabTo(page, page.getByRole("combobox", { name: "Kernel" }));
  await page.keyboard.type("uni");
  await expect.poll(() => shown(page, "spread")).not.toEqual(spread);
  await tabTo(page, page.getByRole("switch", { name: "Curve" }));
  await press(page, "Space");
  await expect.poll(async () => (await shown(page, "gas")).filter(({ layer }) => layer === 1).length).toBe(0);
});

test("rounds are picked in the list, one more with Shift", async ({ context }) => {
  const { page } = await openFile(context, "parcel-rounds.html");
  await tabTo(page, piece(page, "list").getByRole("row").nth(1));
  await press(page, "Enter");
  await press(page, "ArrowDown", 2);
  await press(page, "Shift+Enter");
  expect((await shown(page, "ends")).filter(({ layer }) => layer === "between")).toHaveLength(2);
  await press(page, "Escape");
  expect(await shown(page, "ends")).toEqual([]);
});

test("lives are drawn again", async ({ context }) => {
  const { page } = await openFile(context, "savings-draws.html");
  const half = async () => Number((await shown(page, "half"))[0]?.value);
  const first = await half();
  await tabTo(page, page.getByRole("button", { name: "Draw again" }));
  await press(page, "Enter");
  await expect.poll(half).not.toBe(first);
});

test("rows of a long list are walked past what is in sight, and the keyboard stays where it is when one is picked", async ({
  context,
}) => {
  const rows = Array.from({ length: 3000 }, (_, at) => `${at},${"abc"[at % 3]},${at % 7}`).join("\n");
  writeFileSync(`${OUT}/long-list.csv`, `id,kind,n\n${rows}\n`);
  writeFileSync(
    `${OUT}/long-list.still.yaml`,
    `still: 1
report: A long list
tables: {r: {read: long-list.csv}}
charts:
  list: {from: r, draw: table}
  kinds: {from: r, draw: bars, x: kind, y: count()}
links: [rows on list -> filter kinds]
pages: [{page: One, columns: 1fr 1fr, grid: list kinds}]
`,
  );
  expect(still("build", `${OUT}/long-list.still.yaml`).status).toBe(0);
  const opened = await openFile(context, "long-list.html");
  const { page } = opened;
  const row = (id: number) => piece(page, "list").locator(`tr[data-id="${id}"]`);
  await row(0).focus();
  for (let presses = 0; presses < 60; presses++) await page.keyboard.press("ArrowDown");
  await expect(row(60)).toBeFocused();
  await expect(row(60)).toBeInViewport();
  await page.keyboard.press("Enter");
  await expect.poll(() => rowsOf(page, "kinds")).toEqual([{ x: "a", y: 1 }]);
  await expect(row(60)).toBeFocused();
  await page.keyboard.press("ArrowUp");
  await expect(row(59)).toBeFocused();
  await page.keyboard.press("Shift+Enter");
  await expect
    .poll(() => rowsOf(page, "kinds"))
    .toEqual([
      { x: "a", y: 1 },
      { x: "c", y: 1 },
    ]);
  // Scrolled out of sight the row of the keyboard is left, and the list can be come to again.
  await piece(page, "list")
    .locator(".rows")
    .evaluate((box) => box.scrollTo(0, 40_000));
  await expect(piece(page, "list").locator("tr[tabindex='0']")).toHaveCount(1);
  expectNoNoise(opened);
});

test("texts, summaries and figures longer than their place are scrolled by the keyboard; others are no stop", async ({
  context,
}) => {
  writeFileSync(
    `${OUT}/scrolled.still.yaml`,
    `still: 1
report: Scrolled
tables:
  t:
    rows: [{a: one, n: 1}, {a: two, n: 2}, {a: three, n: 4}, {a: four, n: 2}, {a: five, n: 9}, {a: six, n: 7}]
charts:
  every: {draw: summary, from: t}
  by_a: {draw: figure, from: t, value: sum(n), by: a}
notes:
  long: {text: "One\\n\\n- two\\n- three\\n- four\\n- five\\n- six\\n- seven\\n\\nThe end: {n}", from: t, get: {n: sum(n)}}
  short: {text: One line}
pages:
  - page: One
    columns: 90px 1fr
    rows: 90px 90px
    grid: |
      long every
      by_a short
`,
  );
  expect(still("build", `${OUT}/scrolled.still.yaml`).stderr).not.toContain("error");
  const { page } = await openFile(context, "scrolled.html");
  await page.setViewportSize({ width: 760, height: 500 });
  const ends: [string, string, string][] = [
    ["long", ".about", "End"],
    ["every", ".rows", "ArrowRight"],
    ["by_a", ".shown-figure", "End"],
  ];
  for (const [name, host, key] of ends) {
    const box = piece(page, name).locator(host);
    await tabTo(page, box);
    await page.keyboard.press(key);
    await expect.poll(() => box.evaluate((own) => own.scrollTop + own.scrollLeft)).toBeGreaterThan(0);
  }
  await expect(piece(page, "short").locator(".about")).not.toHaveAttribute("tabindex");
});
