import { expect, test as fresh, type Page } from "@playwright/test";
import { atRest, axe, boxOf, exchange, goTo, keptText, openDesk, rewrite, test } from "./desk";

test("every station is a key away, and the sheet and the palette too", async ({ page }) => {
  const desk = await openDesk(page);
  for (const [at, name] of ["Tables", "Charts", "Links", "Pages", "Publish"].entries()) {
    await page.keyboard.press(`Alt+${at + 1}`);
    await expect(page.getByRole("main", { name })).toBeVisible();
  }
  await page.keyboard.press("Control+e");
  await expect(desk.sheet).toBeFocused();
  await page.keyboard.press("Control+e");
  await expect(desk.sheet).not.toBeFocused();
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "All keys" })).toContainText("Write the dashboard file");
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+k");
  await page.getByRole("searchbox", { name: "Find a command" }).fill("phone");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("radio", { name: "phone 390" })).toBeChecked();
  await expect(page.getByRole("dialog")).toHaveCount(0);
});

test("Tables shows the rows at every step, what each lost, and all of them by scrolling", async ({ page }) => {
  await openDesk(page, "all calls");
  await goTo(page, "Tables");
  const steps = page.getByRole("list", { name: "Steps of calls" });
  await expect(steps).toContainText("216 duplicates");
  await expect(steps).toContainText("222 not true");
  const rows = page.getByRole("table", { name: "Rows of calls" });
  await expect(rows).toHaveAttribute("aria-rowcount", "24179");
  await expect(rows.getByRole("columnheader", { name: /rate/ })).toBeVisible();
  await steps.getByRole("button", { name: "calls.csv" }).click();
  await expect(page.getByText("24,616 rows of 12 columns")).toBeVisible();
  await expect(rows.getByRole("columnheader", { name: /rate/ })).toHaveCount(0);
  await expect(page.locator(".cm-line.band")).toHaveText("    read: calls.csv");
  await rows.focus();
  await page.keyboard.press("End");
  await expect(rows.getByRole("row").last()).toHaveAttribute("aria-rowindex", "24617");
  await expect(rows.getByRole("row").last()).toContainText("C-");
});

test("a step that cannot be run says so in its place, and the rows above it stay to be looked at", async ({ page }) => {
  const desk = await openDesk(page, "all calls");
  await exchange(desk, "tonnes > 0 and known(left)", "tons > 0 and known(left)");
  await goTo(page, "Tables");
  const steps = page.getByRole("list", { name: "Steps of calls" });
  await expect(steps).toContainText('no column "tons"');
  await expect(page.getByText("24,400 rows of 12 columns")).toBeVisible();
  await steps.getByRole("button", { name: "write tonnes" }).click();
  await expect(steps).toContainText("add rate");
});

test("Charts has one large and live, says where its rows went, and shows all others small", async ({ page }) => {
  const desk = await openDesk(page, "all calls");
  await goTo(page, "Charts");
  const small = page.getByRole("list", { name: "All charts" });
  // The last one adds another.
  await expect(small.getByRole("button")).toHaveCount(6);
  await small.getByRole("button", { name: /by_berth/ }).click();
  await expect(desk.proof.getByRole("heading", { name: "Cargo landed, by berth" })).toBeVisible();
  await expect(desk.proof.getByRole("heading", { name: "Cargo by month" })).toBeHidden();
  await expect(desk.proof.getByRole("group", { name: "Legend of Cargo landed, by berth" })).toBeVisible();
  await expect(desk.proof.getByText("How this was made")).toBeHidden();
  const account = page.getByRole("list", { name: "From rows to marks" });
  await expect(account).toContainText("24,616rows in calls");
  await expect(account).toContainText("24,178kept by its steps438 by its steps: 216 duplicates, 222 not true");
  await expect(account).toContainText("42bars drawn");
  await expect(page.getByRole("complementary", { name: "Columns of calls" })).toContainText("alongside");
  // A count is pressed to see its rows.
  await account.getByRole("button", { name: "rows in calls" }).click();
  const tables = page.getByRole("main", { name: "Tables" });
  await expect(tables).toContainText("24,616 rows");
  await goTo(page, "Charts");
  await small.getByRole("button", { name: /waiting/ }).click();
  await account.getByRole("button", { name: "42 missing a value" }).click();
  await expect(tables).toContainText("rows of waiting: without a place");
  await expect(tables).toContainText("42 of 24,178 rows");
  await tables.getByRole("button", { name: "let go" }).click();
  await expect(tables).toContainText("24,178 rows of");
  // Back on its page, with everything else.
  await goTo(page, "Pages");
  await expect(desk.proof.getByRole("heading", { name: "Cargo by month" })).toBeVisible();
});

test("Charts: a new chart is one of the pictures that its columns could give; it is moved, doubled, taken out", async ({
  page,
}) => {
  const desk = await openDesk(page);
  await goTo(page, "Charts");
  const strip = page.getByRole("list", { name: "All charts" });
  await strip.getByRole("button", { name: "new chart" }).click();
  const fresh = page.getByRole("region", { name: "New chart" });
  await expect(fresh.getByRole("checkbox", { name: /Mean waited by berth/ })).toBeChecked();
  const columns = page.getByRole("complementary", { name: "Columns of calls" });
  await columns.getByRole("button", { name: "cargo" }).press("Enter");
  await columns.getByRole("button", { name: "tonnes" }).press("Enter");
  await expect(fresh.getByText("with cargo and tonnes")).toBeVisible();
  // Of columns that were pressed the plainest is ticked, others are a press away.
  await expect(fresh.getByRole("checkbox", { name: /Tonnes by cargo where/ })).toBeChecked();
  await expect(fresh.getByRole("checkbox", { checked: true })).toHaveCount(1);
  await fresh.getByRole("button", { name: "write it into the sheet" }).click();
  await expect(desk.proof.locator("section[data-piece=by_group]")).toBeVisible();
  await expect(strip.getByRole("button", { name: /by_group/ })).toHaveAttribute("aria-current", "true");
  expect(await keptText(page)).toContain("  by_group:\n    from: calls\n    title: Tonnes by cargo\n    draw: bars\n");
  const does = async (words: string) => {
    await page.getByRole("button", { name: "this chart" }).click();
    await page.getByRole("menuitem", { name: words }).click();
  };
  const order = () => strip.getByRole("button").allInnerTexts();
  await does("stands earlier");
  await expect
    .poll(async () => (await order()).slice(-3))
    .toEqual([
      expect.stringContaining("by_group"),
      expect.stringContaining("landed"),
      expect.stringContaining("new chart"),
    ]);
  await does("another like it");
  await expect(strip.getByRole("button", { name: /by_group_2/ })).toHaveAttribute("aria-current", "true");
  await does("take it out");
  await expect(strip.getByRole("button", { name: /by_group_2/ })).toHaveCount(0);
  await expect(desk.tally).toContainText("6 charts");
});

test("Charts lights the marks that an advice speaks of, for as long as it is looked at or held", async ({ page }) => {
  const desk = await openDesk(page);
  const rows = Array.from({ length: 60 }, (_, at) => `${at % 12},${(at * 7) % 10},${["fuel", "salt"][at % 2]}`);
  await rewrite(
    desk,
    `still: 1\nreport: Lit\ntables: {t: {rows: "a,b,kind\\n${rows.join("\\n")}\\n"}}\ncharts:\n  dots: {from: t, draw: points, x: a, y: b, color: kind, legend: {at: in_top_left}}\n`,
  );
  await expect(desk.proof.getByRole("heading", { name: "Lit", level: 1 })).toBeVisible();
  await goTo(page, "Charts");
  const picture = () =>
    desk.proof
      .locator("section[data-piece=dots] canvas")
      .evaluateAll((all) => all.map((one) => (one as HTMLCanvasElement).toDataURL()).join(" "));
  const advice = page.getByRole("list", { name: "Advice" }).getByRole("listitem");
  await expect(advice).toContainText("marks lie in the corner where the legend is");
  // As it is once the file stands there, at its full size.
  await atRest(desk);
  let plain = "";
  await expect(async () => {
    const before = plain;
    plain = await picture();
    expect(plain).toBe(before);
  }).toPass({ intervals: [300] });
  await advice.hover();
  await expect.poll(picture).not.toBe(plain);
  const lit = await picture();
  await page.getByRole("navigation", { name: "Stations" }).hover();
  await expect.poll(picture).toBe(plain);
  // By keyboard: lit while the focus is there, and on while it is pressed.
  const press = advice.getByRole("button", { name: "light them" });
  await press.focus();
  await expect.poll(picture).toBe(lit);
  await press.press("Enter");
  await expect(press).toHaveAttribute("aria-pressed", "true");
  await desk.sheet.focus();
  await expect.poll(picture).toBe(lit);
  await advice.getByRole("button", { name: "write top" }).click();
  await expect(advice).toHaveCount(0);
  expect(await keptText(page)).toContain("legend: {at: top}");
});

test("Charts takes a column by key and by drag, and says at each place what it would write", async ({ page }) => {
  const desk = await openDesk(page);
  await goTo(page, "Charts");
  await page
    .getByRole("list", { name: "All charts" })
    .getByRole("button", { name: /by_berth/ })
    .click();
  const column = (name: string) => page.getByRole("button", { name: new RegExp(`^${name}, .*: where to put it`) });
  await column("weight").press("Enter");
  const menu = page.getByRole("menu", { name: "weight, number: where to put it" });
  await expect(menu.getByRole("menuitem")).toHaveText([
    "across instead of sum(tonnes)sum(weight)",
    "up instead of berthbin(weight, 24)",
    "colour instead of cargomean(weight)",
  ]);
  await menu.getByRole("menuitem", { name: /^across/ }).press("Enter");
  await expect.poll(() => keptText(page)).toContain("    x: sum(weight)\n    color: cargo");
  await expect(desk.proof.locator("section[data-piece=by_berth]")).toContainText("Weight");
  await page.getByRole("button", { name: "undo" }).click();
  await expect.poll(() => keptText(page)).toContain("    x: sum(tonnes)\n    color: cargo");
  // By drag: the places stand on the picture, and the one under the pointer is taken.
  const picture = await page.locator("iframe[title='The dashboard as it stands']").boundingBox();
  const from = await column("vessel").boundingBox();
  if (!picture || !from) throw new Error("nothing to drag");
  await page.mouse.move(from.x + 12, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(from.x - 60, from.y + 20, { steps: 4 });
  await page.mouse.move(picture.x + 40, picture.y + picture.height / 2, { steps: 6 });
  await expect(page.getByRole("status").filter({ hasText: "small charts, one a value" })).toBeVisible();
  await page.mouse.up();
  await expect.poll(() => keptText(page)).toContain("    y: vessel\n    x: sum(tonnes)");
  await expect(page.getByRole("menu")).toHaveCount(0);
  expect(await axe(page)).toEqual([]);
});

test("Links reads as a square in words, and the row lights up that the reader uses", async ({ page }) => {
  const desk = await openDesk(page);
  await goTo(page, "Links");
  const matrix = page.getByRole("table").first();
  const waiting = matrix.getByRole("row", { name: /Hours waited for a berth brush x/ });
  await expect(waiting.getByRole("cell")).toHaveText([
    "filters",
    "marks its own pick",
    "filters",
    "filters",
    "filters",
  ]);
  await expect(matrix.getByRole("row", { name: /Cargo landed, by berth click by berth/ }).getByRole("cell")).toHaveText(
    ["•nothing", "•nothing", "marks its own pick", "filters", "filters"],
  );
  const cargo = matrix.getByRole("row", { name: /cargo control/ });
  await expect(cargo).not.toHaveClass(/used/);
  await desk.proof.getByRole("checkbox", { name: /fuel/ }).press("Space");
  await expect(cargo).toHaveClass(/used/);
  await waiting.getByRole("rowheader").getByRole("button").click();
  await page.getByRole("button", { name: "Open the sheet" }).click();
  await expect(page.locator(".cm-line.band")).toHaveText("  - brush x on waiting -> filter all");
});

test("Links is written in its square: a cell says something else, a gesture more, everything with everything", async ({
  page,
}) => {
  const desk = await openDesk(page, "all calls");
  await goTo(page, "Links");
  const sentences = page.getByLabel("Links as written");
  const cell = (name: RegExp) => page.getByRole("table").first().getByRole("button", { name });
  await cell(/berth, click by berth, on Hours waited for a berth: nothing/).press("Enter");
  await page.keyboard.press("f");
  await page.getByRole("menuitemradio", { name: /^fades/ }).press("Enter");
  await expect(sentences).toContainText("- click on by_berth by berth -> filter trend, landed, fade waiting");
  await atRest(desk);
  await desk.proof.locator("section[data-piece=by_berth] .catch").press("ArrowRight");
  await desk.proof.locator("section[data-piece=by_berth] .catch").press("Enter");
  await expect(desk.proof.locator(".sentence")).toContainText("berth is");
  // What all means is written out when one leaves it, and comes back with it.
  await cell(/^Hours waited for a berth, brush x, on Cargo: filters/).click();
  await page.getByRole("menuitemradio", { name: /^nothing/ }).click();
  await expect(sentences).toContainText("- brush x on waiting -> filter by_berth, trend, landed");
  await cell(/^Hours waited for a berth, brush x, on Cargo: nothing/).click();
  await page.getByRole("menuitemradio", { name: /^filters/ }).click();
  await expect(sentences).toContainText("- brush x on waiting -> filter all");
  await page.getByRole("button", { name: "a gesture more" }).click();
  await page
    .getByRole("group", { name: "Cargo by month" })
    .getByRole("menuitem", { name: /^legend/ })
    .click();
  await expect(sentences).toContainText("- legend on trend -> filter all");
  await page.getByRole("button", { name: "everything with everything in calls" }).click();
  await expect(sentences).toContainText("- cross-filter calls");
  await expect(page.getByRole("button", { name: "everything with everything in calls" })).toHaveCount(0);
  await expect(desk.tally).toContainText("nothing to mend");
  expect(await axe(page)).toEqual([]);
  for (let edit = 0; edit < 5; edit++) await page.getByRole("button", { name: "undo" }).click();
  await expect(sentences).toHaveText(/-> filter trend, landed\s+- hover x on trend -> crosshair trend$/);
  // A gesture is begun on the dashboard itself, and every target says how many rows it has left.
  await atRest(desk);
  await desk.proof.locator("section[data-piece=trend] .catch").focus();
  const begin = page.getByRole("toolbar", { name: "What readers can do on Cargo by month" });
  await begin.getByRole("button", { name: "brush x", exact: true }).click();
  await expect(sentences).toContainText("- brush x on trend as trend_brush_x -> filter all");
  await expect(
    page
      .getByRole("table")
      .first()
      .getByRole("row", { name: /^Cargo by month brush x/ }),
  ).toBeVisible();
  const left = page.getByRole("row", { name: /^rows left/ }).getByRole("cell");
  // The proof has caught up when the pick of a berth filters its two targets only.
  await expect(left.nth(1)).toHaveText("24,136");
  const before = await left.allInnerTexts();
  await atRest(desk);
  await desk.proof.locator("section[data-piece=by_berth] .catch").press("ArrowRight");
  await desk.proof.locator("section[data-piece=by_berth] .catch").press("Enter");
  await expect.poll(async () => (await left.allInnerTexts())[4]).not.toBe(before[4]);
  const now = (await left.allInnerTexts())[4];
  await expect(desk.proof.locator("section[data-piece=landed] .takes")).toContainText(`take all ${now}:`);
  expect((await left.allInnerTexts())[1]).toBe(before[1]);
});

test("Charts: an axis or a title pressed on the picture has its few choices, and so has every part by name", async ({
  page,
}) => {
  const desk = await openDesk(page);
  await goTo(page, "Charts");
  await page
    .getByRole("list", { name: "All charts" })
    .getByRole("button", { name: /^by_berth/ })
    .click();
  const parts = page.getByRole("toolbar", { name: "Parts of the chart" });
  await expect(parts.getByRole("button", { name: "up: berth" })).toBeVisible();
  const chart = desk.proof.locator("section[data-piece=by_berth] .plot");
  // A frame that has just taken the place of another is told a moment later that the chart is alone at large.
  const pressUntil = (place: (box: { width: number; height: number }) => [number, number], choice: string) =>
    expect(async () => {
      const box = await boxOf(chart);
      const [x, y] = place(box);
      await page.mouse.click(box.x + x, box.y + y);
      await expect(page.getByRole("menuitemradio", { name: choice })).toBeVisible({ timeout: 3000 });
    }).toPass();
  await pressUntil(({ width, height }) => [width / 2, height - 8], "mean");
  await page.getByRole("menuitemradio", { name: "mean" }).click();
  await expect.poll(() => keptText(page)).toContain("x: mean(tonnes)");
  await pressUntil(({ height }) => [20, height / 2], "largest first");
  const order = page.getByRole("group", { name: "order" });
  await expect(order.getByRole("menuitemradio", { name: "largest first" })).toHaveAttribute("aria-checked", "false");
  await order.getByRole("menuitemradio", { name: "by name" }).click();
  await expect.poll(() => keptText(page)).not.toContain("sort: {y: -sum(tonnes)}");
  // By keyboard the same: the part is named in words over the picture.
  await parts.getByRole("button", { name: "drawn as: bars" }).press("Enter");
  await page.getByRole("menuitemradio", { name: "percent" }).press("Enter");
  await expect.poll(() => keptText(page)).toContain("stacking: percent");
  await expect(desk.tally).toContainText("nothing to mend");
  expect(await axe(page)).toEqual([]);
  for (let edit = 0; edit < 3; edit++) await page.getByRole("button", { name: "undo" }).click();
  await expect.poll(() => keptText(page)).toContain("sort: {y: -sum(tonnes)}");
});

test("Pages shows the dashboard at each width, with what was picked kept", async ({ page }) => {
  const desk = await openDesk(page);
  await desk.proof.getByRole("checkbox", { name: /fuel/ }).check();
  // A frame that gives way to another in the middle of a question answers nothing, and is asked again.
  const ask = (about: () => number) =>
    desk.proof
      .locator("html")
      .evaluate(about)
      .catch(() => undefined);
  const width = () => ask(() => document.documentElement.clientWidth);
  for (const [name, pixels] of [
    ["phone 390", 390],
    ["tablet 820", 820],
    ["paper 794", 794],
    ["desk 1280", 1280],
  ] as const) {
    await page.getByRole("radio", { name }).click();
    await expect.poll(width).toBe(pixels);
  }
  // On a phone all stands in one column; where it is scrolled to stays while the author types on.
  await page.getByRole("radio", { name: "phone 390" }).click();
  await expect.poll(width).toBe(390);
  await desk.proof.locator("section[data-piece=trend]").scrollIntoViewIfNeeded();
  const scrolled = () => ask(() => window.scrollY);
  await expect.poll(scrolled).toBeGreaterThan(100);
  const before = await scrolled();
  await exchange(desk, "report: Quay calls", "report: Scrolled");
  await expect(desk.proof.getByRole("heading", { name: "Scrolled", level: 1 })).toBeAttached();
  await expect.poll(scrolled).toBe(before);
  await page.getByRole("radio", { name: "desk 1280" }).click();
  await expect.poll(width).toBe(1280);
  await expect(page.getByText(/at \d+ % of its size/)).toBeVisible();
  await expect(desk.proof.locator(".sentence")).toContainText("cargo is");
});

test("Pages is laid out by hand: pieces move by keys and by pointer, and the grid in the sheet follows", async ({
  page,
}) => {
  const desk = await openDesk(page);
  await goTo(page, "Pages");
  await page.getByRole("button", { name: "lay out by hand" }).click();
  const laid = page.getByRole("group", { name: "The page laid out by hand" });
  const piece = (name: string) => laid.getByRole("button", { name: new RegExp(`^${name}:`) });
  await piece("trend").press("ArrowLeft");
  await expect(piece("trend")).toHaveAccessibleName(/^trend: columns 1 to 1, rows 2 to 2/);
  await expect(piece("by_berth")).toHaveAccessibleName(/^by_berth: columns 2 to 2, rows 2 to 2/);
  await expect(piece("trend")).toBeFocused();
  await expect.poll(() => keptText(page)).toMatch(/ {6}tonnage {2}tonnage\n {6}trend {4}by_berth\n/);
  await page.getByRole("button", { name: "undo" }).click();
  await expect(piece("trend")).toHaveAccessibleName(/^trend: columns 2 to 2/);
  // By pointer: the right edge of the waiting bars is dragged over what stands beside them, which moves away.
  await laid.getByRole("button", { name: "A row more after row 3" }).click();
  await expect(laid.getByRole("textbox", { name: "Size of row 4" })).toHaveValue("1fr");
  const box = await piece("landed").boundingBox();
  if (!box) throw new Error("no piece");
  await page.mouse.move(box.x + box.width / 2, box.y + box.height - 3);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height + 60, { steps: 6 });
  await page.mouse.up();
  await expect(piece("landed")).toHaveAccessibleName(/^landed: columns 2 to 2, rows 3 to 4/);
  await laid.getByRole("textbox", { name: "Size of column 1" }).fill("1fr");
  await laid.getByRole("textbox", { name: "Size of column 1" }).press("Enter");
  await expect.poll(() => keptText(page)).toContain("columns: 1fr 3fr");
  // The line between two columns is moved by keys and by pointer; both go on sharing what they had.
  const line = laid.getByRole("separator", { name: "Line behind column 1" });
  // Pressed faster than the page is made anew, no press is lost.
  for (let press = 0; press < 3; press++) await line.press("ArrowRight");
  await expect.poll(() => keptText(page)).toContain("columns: 1.15fr 2.85fr");
  const at = await line.boundingBox();
  if (!at) throw new Error("no line");
  await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2);
  await page.mouse.down();
  await page.mouse.move(at.x + at.width / 2 + 200, at.y + at.height / 2, { steps: 4 });
  await page.mouse.up();
  await expect.poll(() => keptText(page)).toMatch(/columns: 2\.\d+fr 1\.\d+fr/);
  // Dropped on the head of another, a piece shares its place as a tab; and is taken out again.
  const [held, head] = [await piece("waiting").boundingBox(), await piece("by_berth").boundingBox()];
  if (!held || !head) throw new Error("no pieces");
  await page.mouse.move(held.x + 60, held.y + 60);
  await page.mouse.down();
  await page.mouse.move(head.x + 80, head.y + 60, { steps: 4 });
  await page.mouse.move(head.x + 80, head.y + 10, { steps: 4 });
  await expect(laid.getByText("in tabs with by_berth")).toBeVisible();
  await page.mouse.up();
  await expect.poll(() => keptText(page)).toContain("{by_berth_tabs: {tabs: [by_berth, waiting]}}");
  await expect(desk.proof.getByRole("tab", { name: "Hours waited for a berth" })).toBeVisible();
  await laid.getByRole("button", { name: "take out waiting" }).click();
  await expect(piece("waiting")).toHaveAccessibleName(/^waiting: columns 1 to 2, rows 5 to 5/);
  await piece("waiting").press("Alt+ArrowUp");
  await expect(piece("landed_tabs")).toBeVisible();
  await expect(desk.tally).toContainText("nothing to mend");
  expect(await axe(page)).toEqual([]);
});

fresh("Publish lists what leaves, and copies the line that does the same", async ({ page, context }) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  const desk = await openDesk(page, "all calls");
  await goTo(page, "Publish");
  const row = page.getByRole("row", { name: /^rate calls 24,178 number/ });
  await expect(row).toContainText("landed");
  await expect(page.getByRole("row", { name: /remarks/ })).toHaveCount(0);
  await page.getByRole("button", { name: "copy", exact: true }).click();
  await expect(desk.tally).toContainText("the terminal line is on the clipboard");
  expect(await page.evaluate(() => navigator.clipboard.readText())).toBe("./still build quay-calls.still.yaml");
  await expect(page.getByRole("list", { name: "By chart" })).toContainText("waiting 35 kB, 35 kB for it alone");
  // What would make it lighter is done with a press, in the sheet's own text.
  const packed = page.getByRole("region", { name: "What is in the file" });
  await expect(packed.getByRole("rowheader", { name: "vessel" })).toBeVisible();
  await page.getByRole("button", { name: "Do it: leave vessel out of Calls" }).click();
  await expect(packed.getByRole("rowheader", { name: "vessel" })).toHaveCount(0);
  expect(await keptText(page)).toContain("columns: [berth, cargo, tonnes, rate]");
});

/** Looks at the page on both grounds. */
async function onBothGrounds(page: Page, where: string) {
  for (const ground of ["light", "dark"]) {
    await page.evaluate((wanted) => {
      document.documentElement.dataset.ground = wanted;
    }, ground);
    await page.waitForTimeout(200);
    // On the other ground nothing but the colours is another.
    expect(await axe(page, ground === "dark" ? ["color-contrast"] : undefined), `${where}, ${ground}`).toEqual([]);
  }
}

fresh("axe finds nothing at any station, on both grounds", async ({ page }) => {
  await openDesk(page);
  for (const station of ["Tables", "Charts", "Links", "Pages", "Publish"]) {
    await goTo(page, station);
    await page.waitForTimeout(300);
    await onBothGrounds(page, station);
  }
  await goTo(page, "Charts");
  await page.getByRole("button", { name: "new chart" }).click();
  await expect(page.getByRole("list", { name: "Suggested charts" })).toBeVisible();
  await onBothGrounds(page, "a new chart");
});

fresh("axe finds nothing in any dialog or beside a mistake, on both grounds", async ({ page }) => {
  const desk = await openDesk(page);
  const titles: Record<string, string> = { "All reports": "Reports", "Open the guide": "The guide" };
  for (const dialog of ["Find a command", "All keys", "All reports", "Earlier versions", "Open the guide"]) {
    await page.keyboard.press("Control+k");
    if (dialog !== "Find a command") {
      await page.getByRole("searchbox").fill(dialog);
      await page.keyboard.press("Enter");
      await expect(page.getByRole("dialog", { name: titles[dialog] ?? dialog })).toBeVisible();
    }
    await onBothGrounds(page, dialog);
    await page.keyboard.press("Escape");
    await expect(page.getByRole("dialog")).toHaveCount(0);
  }
  await exchange(desk, "draw: figure", "draw: figur");
  await expect(desk.findings).toContainText("figur");
  await onBothGrounds(page, "with a mistake");
  expect(await keptText(page)).toContain("figur\n");
});

fresh("the ground stays as it was left", async ({ page }) => {
  await openDesk(page);
  await page.getByRole("button", { name: "dark", exact: true }).click();
  await page.reload();
  await expect(page.getByRole("button", { name: "light", exact: true })).toBeVisible();
  expect(await page.evaluate(() => getComputedStyle(document.body).backgroundColor)).toBe("rgb(16, 32, 31)");
});
