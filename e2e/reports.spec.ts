import { readFileSync, writeFileSync } from "node:fs";
import { resolve } from "node:path";
import { expect, test as fresh, type Page } from "@playwright/test";
import { unzipSync, zipSync } from "fflate";
import { ADDRESS, drop, exchange, goTo, kept, keptText, openDesk, parts, test } from "./desk";
import { OUT, still } from "./prepare";

const HARBOUR = "berth,ships\nNorth Mole,12\nGranary,7\n";

async function savedZip(page: Page): Promise<Uint8Array> {
  const download = page.waitForEvent("download");
  await page.keyboard.press("Control+k");
  await page.getByRole("searchbox", { name: "Find a command" }).fill("zip");
  await page.getByRole("menuitem", { name: "Save the report as a zip" }).click();
  return new Uint8Array(readFileSync(await (await download).path()));
}

fresh("a reload in the middle of writing loses nothing, nor what was picked before it", async ({ page }) => {
  const desk = await openDesk(page);
  await exchange(desk, "title: Cargo by month", "title: Cargo a mo");
  await page.keyboard.type("nth");
  await expect.poll(() => keptText(page)).toContain("title: Cargo a month");
  await page.reload();
  await expect(desk.proof.getByRole("heading", { name: "Cargo a month" })).toBeVisible();
  expect(await keptText(page)).toContain("title: Cargo a month");
  // Typed and reloaded at once: what was being kept while the page went away is there too.
  await exchange(desk, "report: Quay calls", "report: Calls");
  await page.reload();
  await expect(desk.proof.getByRole("heading", { name: "Calls", level: 1 })).toBeVisible();
});

fresh("a compiler that is killed is started again, and nothing is missing", async ({ page }) => {
  const desk = await openDesk(page, "all calls");
  for (let round = 0; round < 2; round++) {
    const [worker] = page.workers();
    await worker?.evaluate(() => self.close());
    await expect(page.getByText("The compiler had died and was started again.")).toBeVisible();
    await exchange(desk, round ? "report: Again" : "report: Quay calls", round ? "report: Once more" : "report: Again");
    await expect(desk.proof.getByRole("heading", { name: round ? "Once more" : "Again", level: 1 })).toBeVisible();
  }
  await expect(desk.tally).toContainText("24,178 kept");
});

const LARGE = `berth,ships,note\n${Array.from({ length: 100_000 }, (_, n) => `Mole ${n % 7},${n},${"x".repeat(40 + (n % 20))}`).join("\n")}\n`;

fresh(
  "a table for which there is no room is said at once; work goes on and can be taken away as a file",
  async ({ page, context }) => {
    const session = await context.newCDPSession(page);
    const origin = ADDRESS.slice(0, -1);
    await session.send("Storage.overrideQuotaForOrigin", { origin, quotaSize: 4_500_000 });
    const desk = await openDesk(page);
    await goTo(page, "Tables");
    await drop(page.getByRole("button", { name: "add a table" }), [{ name: "ships.csv", text: LARGE }]);
    await expect(page.getByText("100,000 rows of 3 columns")).toBeVisible();
    await expect(page.getByText("not saved: the browser's storage is full")).toBeVisible();
    await exchange(desk, "report: Quay calls", "report: Half kept");
    await goTo(page, "Pages");
    await expect(desk.proof.getByRole("heading", { name: "Half kept", level: 1 })).toBeVisible();
    await expect(page.getByText("not saved: the browser's storage is full")).toBeVisible();
    const download = page.waitForEvent("download");
    await page.getByRole("button", { name: "save as file" }).click();
    const zip = unzipSync(new Uint8Array(readFileSync(await (await download).path())));
    expect(new TextDecoder().decode(zip["quay-calls.still.yaml"])).toContain("report: Half kept");
    expect(new TextDecoder().decode(zip["ships.csv"]) === LARGE).toBe(true);
    // Room is made: the next change keeps everything, the table too.
    await session.send("Storage.overrideQuotaForOrigin", { origin, quotaSize: 1_000_000_000 });
    await exchange(desk, "report: Half kept", "report: All kept");
    await expect(page.getByText("saved", { exact: true })).toBeVisible({ timeout: 70_000 });
    await page.reload();
    await goTo(page, "Tables");
    await page.getByRole("button", { name: "ships", exact: true }).click();
    await expect(page.getByText("100,000 rows of 3 columns")).toBeVisible();
  },
);

fresh(
  "where nothing can be kept at all the demo report still answers, and the foot says so",
  async ({ page, context }) => {
    const session = await context.newCDPSession(page);
    await session.send("Storage.overrideQuotaForOrigin", { origin: ADDRESS.slice(0, -1), quotaSize: 1 });
    const desk = await openDesk(page, "all calls");
    await expect(page.getByText("not saved: the browser's storage is full")).toBeVisible();
    await expect(desk.tally).toContainText("24,178 kept");
  },
);

fresh("two tabs on one report: the second says so, follows, copies, and takes over", async ({ page, context }) => {
  const first = await openDesk(page);
  const other = await context.newPage();
  await other.goto(page.url());
  const second = parts(other);
  await expect(other.getByRole("alert").filter({ hasText: "another tab" })).toContainText(
    "being written in another tab",
  );
  await expect(second.sheet).toHaveAttribute("aria-readonly", "true");
  await exchange(first, "report: Quay calls", "report: Seen twice");
  await expect(second.proof.getByRole("heading", { name: "Seen twice", level: 1 })).toBeVisible();
  // Tables come and go in the tab that follows too.
  await page.bringToFront();
  await goTo(page, "Tables");
  await drop(page.getByRole("button", { name: "add a table" }), [{ name: "ships.csv", text: HARBOUR }]);
  await expect.poll(async () => (await kept(other))?.files.map(([path]) => path)).toEqual(["calls.csv", "ships.csv"]);
  await other.bringToFront();
  await goTo(other, "Tables");
  await expect(other.getByRole("button", { name: "ships", exact: true })).toBeVisible();
  await page.getByRole("button", { name: "undo" }).click();
  await expect(other.getByRole("button", { name: "ships", exact: true })).toHaveCount(0);
  await goTo(other, "Pages");
  await second.sheet.focus();
  await other.keyboard.type("nothing of this");
  expect(await keptText(page)).not.toContain("nothing of this");
  // The first is closed: the second writes on where it stopped.
  await page.close();
  await expect(other.getByRole("alert").filter({ hasText: "another tab" })).toBeHidden();
  await exchange(second, "report: Seen twice", "report: Taken over");
  await expect.poll(() => keptText(other)).toContain("report: Taken over");
  // A third writes in a copy and leaves the report as it is.
  const third = await context.newPage();
  await third.goto(other.url());
  await third.getByRole("button", { name: "write in a copy" }).click();
  await expect(third.getByRole("alert").filter({ hasText: "another tab" })).toBeHidden();
  await expect(parts(third).tally).toContainText("nothing to mend");
  await exchange(parts(third), "report: Taken over", "report: A copy");
  await expect.poll(() => keptText(third)).toContain("report: A copy");
  expect(await keptText(other)).toContain("report: Taken over");
});

fresh("saved as a zip, and opened in a browser that has never seen it: all is back", async ({ page, browser }) => {
  const desk = await openDesk(page);
  await exchange(desk, "report: Quay calls", "report: On a journey");
  await expect.poll(() => keptText(page)).toContain("On a journey");
  const bytes = await savedZip(page);
  const text = await keptText(page);
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const fresh = await context.newPage();
  const there = await openDesk(fresh);
  await fresh.getByRole("button", { name: "reports" }).click();
  const chooser = fresh.waitForEvent("filechooser");
  await fresh.getByRole("button", { name: "open a .still.zip or a dashboard" }).click();
  await (await chooser).setFiles({
    name: "quay-calls.still.zip",
    mimeType: "application/zip",
    buffer: Buffer.from(bytes),
  });
  await expect(there.proof.getByRole("heading", { name: "On a journey", level: 1 })).toBeVisible();
  expect(await keptText(fresh)).toBe(text);
  expect((await kept(fresh))?.files).toEqual((await kept(page))?.files);
  expect(Buffer.from(await savedZip(fresh)).equals(Buffer.from(bytes))).toBe(true);
  await context.close();
});

test("a hostile zip is refused in words, and the open report stays", async ({ page }) => {
  const desk = await openDesk(page);
  const sheet = new TextEncoder().encode("still: 1\nreport: Bad\n");
  const zips: [string, Uint8Array, string][] = [
    ["up.still.zip", zipSync({ "a.still.yaml": sheet, "../../up.csv": sheet }), "leads out of the project"],
    ["bomb.still.zip", zipSync({ "a.still.yaml": sheet, "b.csv": new Uint8Array(30_000_000) }), "no table does that"],
    ["broken.still.zip", new Uint8Array([1, 2, 3]), "this is no zip file"],
  ];
  for (const [name, bytes, words] of zips) {
    await page.getByRole("button", { name: "reports" }).click();
    const chooser = page.waitForEvent("filechooser");
    await page.getByRole("button", { name: "open a .still.zip or a dashboard" }).click();
    await (await chooser).setFiles({ name, mimeType: "application/zip", buffer: Buffer.from(bytes) });
    await page.keyboard.press("Escape");
    await expect(desk.tally).toContainText(`${name} was not opened`);
    await expect(desk.tally).toContainText(words);
  }
  await expect(page.getByRole("textbox", { name: "Name of the report" })).toHaveValue("Quay calls");
});

test("versions say what changed and can be gone back to, which itself can be undone", async ({ page }) => {
  const desk = await openDesk(page);
  await exchange(desk, "title: Cargo by month", "title: Another name");
  await expect(desk.proof.getByRole("heading", { name: "Another name" })).toBeVisible();
  await page.keyboard.press("Control+k");
  await page.getByRole("searchbox").fill("earlier");
  await page.keyboard.press("Enter");
  const dialog = page.getByRole("dialog", { name: "Earlier versions" });
  await expect(dialog).toContainText("as opened");
  await expect(dialog).toContainText("since then: chart trend: title");
  await dialog.getByRole("button", { name: /Go back/ }).click();
  await expect(desk.proof.getByRole("heading", { name: "Cargo by month" })).toBeVisible();
  await page.getByRole("button", { name: "undo" }).click();
  await expect(desk.proof.getByRole("heading", { name: "Another name" })).toBeVisible();
});

fresh("several reports stand side by side; one can be thrown away after being asked", async ({ page }) => {
  const desk = await openDesk(page, "all calls");
  const dialog = page.getByRole("dialog", { name: "Reports" });
  // At rest a report is kept as it looks: its first chart, its rows, its size.
  await expect(desk.tally).toContainText(/\d+ kB/);
  await page.getByRole("button", { name: "reports" }).click();
  const chooser = page.waitForEvent("filechooser");
  await dialog.getByRole("button", { name: "begin with my own table" }).click();
  await (await chooser).setFiles({ name: "ships.csv", mimeType: "text/csv", buffer: Buffer.from(HARBOUR) });
  await expect(page.getByRole("textbox", { name: "Name of the report" })).toHaveValue("Ships");
  await page.getByRole("button", { name: "reports" }).click();
  const tiles = dialog.getByRole("listitem");
  await expect(tiles).toHaveCount(2);
  const quay = tiles.filter({ hasText: "Quay calls" });
  await expect(quay).toContainText(/24,616 rows · \d+ kB/);
  await expect
    .poll(() => quay.locator("img").evaluate((image: HTMLImageElement) => image.naturalWidth))
    .toBeGreaterThan(0);
  await dialog.getByRole("button", { name: "throw away Quay calls" }).click();
  await dialog.getByRole("button", { name: "yes, throw Quay calls away" }).click();
  await expect(tiles).toHaveCount(1);
  await page.reload();
  await expect(page.getByRole("textbox", { name: "Name of the report" })).toHaveValue("Ships");
});

/** Opens a written dashboard from the list of reports. */
async function openDashboard(page: Page, name: string, bytes: Uint8Array) {
  await page.getByRole("button", { name: "reports" }).click();
  const chooser = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "open a .still.zip or a dashboard" }).click();
  await (await chooser).setFiles({ name, mimeType: "text/html", buffer: Buffer.from(bytes) });
}

test("editions are written as a zip of files, and one of them opened again is a report of its own rows", async ({
  page,
}) => {
  const desk = await openDesk(page, "all calls");
  await exchange(desk, "controls:", "editions: {by: calls.cargo}\nstyle: {sheet: keep}\n\ncontrols:");
  await goTo(page, "Publish");
  // Where the proof is not seen it has no width; it is still the same proof.
  await expect(desk.tally).not.toContainText("a fault of Still Harbor");
  const written = page.waitForEvent("download");
  await page.getByRole("button", { name: "write 6 editions as a zip" }).click();
  const files = unzipSync(new Uint8Array(readFileSync(await (await written).path())));
  expect(Object.keys(files).sort()).toEqual(
    ["containers", "fuel", "grain", "index", "salt", "stone", "timber"].map((name) => `${name}.html`),
  );
  expect(new TextDecoder().decode(files["index.html"])).toContain('href="salt.html"');
  await openDashboard(page, "salt.html", files["salt.html"] as Uint8Array);
  await expect(desk.tally).toContainText("2,444 kept");
  await expect(desk.proof.locator(".sentence")).toContainText("2,444 of 2,444 calls");
  expect((await kept(page))?.sheetName).toBe("salt.still.yaml");
});

test("a dashboard that holds groups in place of rows is opened again, and drawn from these", async ({ page }) => {
  const built = `${OUT}/bars.html`;
  await page.goto(`file://${resolve(built)}`);
  const rows = await page.evaluate(() => window.stillHarbor.ready.then(() => window.stillHarbor.rows("stacked")));
  const desk = await openDesk(page);
  await openDashboard(page, "bars.html", readFileSync(built));
  await expect(desk.proof.getByRole("heading", { name: "Trees of a town's streets" })).toBeVisible();
  await expect(desk.tally).toContainText("nothing to mend");
  await expect(desk.tally).toContainText("stacked, beside, net, shares: drawn from their groups");
  const text = await keptText(page);
  expect(text).toContain("stacked: {from: stacked_groups, draw: bars, y: street, x: sum(sum_trees), color: kind}");
  const frame = page.frames().find((one) => one !== page.mainFrame());
  expect(await frame?.evaluate(() => window.stillHarbor.rows("stacked"))).toEqual(rows);
  // What it was before stands beside it, to be gone back to with the file it speaks of.
  expect((await kept(page))?.files.map(([name]) => name)).toContain("as-written/bars.yaml");
});

test("a dashboard of related tables, with groups in place of rows, is opened again", async ({ page }) => {
  const written = `${OUT}/yard.still.yaml`;
  writeFileSync(
    written,
    `still: 1
report: Yard
tables:
  ships: {rows: [{ship: Ada, kind: tug}, {ship: Bee, kind: barge}]}
  calls:
    rows: [{ship: Ada, hours: 3}, {ship: Bee, hours: 4}, {ship: Ada, hours: 5}]
    steps: [{join: {table: ships, on: ship, get: [kind]}}]
  long: {from: calls, steps: [{keep: hours > 3}]}
charts:
  kinds: {from: long, draw: bars, x: kind, y: sum(hours)}
  ships: {from: ships, draw: bars, x: ship, y: count()}
  list: {from: calls, draw: table}
links:
  - click on ships -> filter list
`,
  );
  expect(still("build", written).status).toBe(0);
  const desk = await openDesk(page);
  await openDashboard(page, "yard.html", readFileSync(`${OUT}/yard.html`));
  await expect(desk.proof.locator("h1")).toHaveText("Yard");
  await expect(desk.tally).toContainText("kinds: drawn from its groups");
  // What ties both tables is there again: the link between them holds.
  await expect(desk.tally).toContainText("nothing to mend");
  const frame = page.frames().find((one) => one !== page.mainFrame());
  const rows = await frame?.evaluate(() => window.stillHarbor.ready.then(() => window.stillHarbor.rows("kinds")));
  expect(rows).toEqual([
    { x: "barge", y: 4 },
    { x: "tug", y: 5 },
  ]);
});

test("a sheet is opened with its tables, and one that comes later goes where the sheet names it", async ({ page }) => {
  const desk = await openDesk(page);
  const sheet = [
    "still: 1",
    "report: Two mills",
    "tables:",
    "  mills: {read: data/mills.csv}",
    "  flour: {read: data/flour.csv}",
    "charts:",
    "  ground: {from: mills, draw: bars, y: mill, x: sum(tonnes)}",
    "  kinds: {from: flour, draw: bars, y: kind, x: sum(tonnes)}",
    "",
  ].join("\n");
  const file = (name: string, text: string) => ({ name, mimeType: "text/plain", buffer: Buffer.from(text) });
  await page.getByRole("button", { name: "reports" }).click();
  const chooser = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "open a sheet with its tables" }).click();
  await (await chooser).setFiles([file("mills.csv", "mill,tonnes\nUpper,3\nLower,5\n"), file("two.still.yaml", sheet)]);
  await expect(desk.proof.getByRole("heading", { name: "Two mills", level: 1 })).toBeVisible();
  await expect(page.getByRole("status", { name: "The report in numbers" })).toContainText("1 to mend");
  expect(await keptText(page)).toBe(sheet);
  await page.keyboard.press("Alt+1");
  const second = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "add a table" }).click();
  await (await second).setFiles(file("flour.csv", "kind,tonnes\nfine,2\nrough,6\n"));
  await expect(page.getByRole("status", { name: "The report in numbers" })).toContainText("nothing to mend");
  expect(await keptText(page)).toBe(sheet);
  expect((await kept(page))?.files.map(([path]: [string, string]) => path).sort()).toEqual([
    "data/flour.csv",
    "data/mills.csv",
  ]);
  // Two reports at once are not mixed.
  await page.getByRole("button", { name: "reports" }).click();
  const third = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "open a sheet with its tables" }).click();
  await (await third).setFiles([file("a.still.yaml", sheet), file("b.still.yaml", sheet)]);
  await expect(page.getByText("a.still.yaml, b.still.yaml are reports of their own")).toBeVisible();
  // Signs that cannot be read are not lost silently.
  const fourth = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "open a sheet with its tables" }).click();
  const odd = Buffer.concat([Buffer.from("still: 1\nreport: Caf"), Buffer.from([0xe9, 0x0a])]);
  await (await fourth).setFiles({ name: "odd.still.yaml", mimeType: "text/plain", buffer: odd });
  await expect(page.getByText("odd.still.yaml was not opened: it is no text in UTF-8")).toBeVisible();
  expect(await keptText(page)).toBe(sheet);
});
