import { resolve } from "node:path";
import { expect, test as fresh, type Page } from "@playwright/test";
import { atRest, complaints, drop, exchange, goTo, keptText, openDesk, test } from "./desk";
import { OUT } from "./prepare";

/** A small shop's waste, as somebody would keep it. */
const LOAVES = ["Rye", "Spelt", "Oat", "Milk rolls", "Plum cake"];
const WASTE = `day;loaf;baked;left over;weekday shift\n${Array.from({ length: 400 }, (_, n) => {
  const day = new Date(Date.UTC(2025, 0, 1 + Math.floor(n / 5)));
  const baked = 40 + ((n * 37) % 55);
  return `${day.toISOString().slice(0, 10)};${LOAVES[n % 5]};${baked};${n % 50 === 7 ? "" : (n * 13) % 17};${n % 2 ? "early" : "late"}`;
}).join("\n")}\n`;

/** Writes the dashboard as a file, as an author does who wants to show it. */
async function writeFile(page: Page) {
  const download = page.waitForEvent("download");
  await page.keyboard.press("Control+s");
  return download;
}

fresh("a newcomer with a table of their own has a dashboard with a few presses", async ({ page, context }) => {
  const said = complaints(page);
  const desk = await openDesk(page);
  const chooser = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "begin with my own table" }).click();
  await (await chooser).setFiles({
    name: "Bakery waste (spring).csv",
    mimeType: "text/csv",
    buffer: Buffer.from(WASTE),
  });
  // At once: that it loaded, how many rows and columns, and the rows themselves.
  await expect(page.getByText("400 rows of 5 columns")).toBeVisible();
  const rows = page.getByRole("table", { name: "Rows of bakery_waste_spring" });
  await expect(rows.getByRole("columnheader", { name: /left over/ })).toContainText("8 missing");
  await expect(rows).toContainText("Plum cake");
  const first = page.getByRole("region", { name: "First charts" });
  await expect(first).toContainText("Baked by loaf");
  await first.getByRole("button", { name: "write 7 into the sheet" }).click();
  await expect(desk.proof.getByRole("heading", { name: "Baked over time" })).toBeVisible();
  await expect(desk.tally).toContainText("nothing to mend");
  // A click in one chart filters the others.
  await atRest(desk);
  await desk.proof
    .locator("section[data-piece=by_group]")
    .getByRole("application")
    .click({ position: { x: 120, y: 60 } });
  await expect(desk.proof.locator(".sentence")).toContainText("where loaf is");
  const file = resolve(OUT, "downloaded.html");
  await (await writeFile(page)).saveAs(file);
  expect(said).toEqual([]);
  const reader = await context.newPage();
  await context.setOffline(true);
  await reader.goto(`file://${file}`);
  await reader.evaluate(() => window.stillHarbor.ready);
  expect(await reader.evaluate(() => window.stillHarbor.counts())).toEqual({
    bakery_waste_spring: { left: 400, all: 400 },
  });
  const share = await reader.evaluate(() => window.stillHarbor.rows("by_group").length);
  expect(share).toBe(LOAVES.length);
  await context.setOffline(false);
});

fresh("one line says what this is to who was never here, and goes once the report is used", async ({ page }) => {
  const desk = await openDesk(page);
  const line = page.getByText("Tables and a sheet become one file that answers.");
  await expect(line).toBeVisible();
  await exchange(desk, "report: Quay calls", "report: Quay calls of ours");
  await expect(line).toBeHidden();
  await page.reload();
  await expect(desk.proof.getByRole("heading", { name: "Quay calls of ours" })).toBeVisible();
  await expect(line).toBeHidden();
  // Who comes again without having done anything knows what this is.
  const other = await page.context().newPage();
  await other.goto(new URL("/", page.url()).href);
  await expect(other.frameLocator("iframe[title='The dashboard as it stands']").locator("h1")).toBeVisible();
  await expect(other.getByText("Tables and a sheet become one file that answers.")).toBeHidden();
  await other.close();
});

test("a table with positions is met with a map, drawn from its rows; what is left out is not written", async ({
  page,
}) => {
  const said = complaints(page);
  const desk = await openDesk(page);
  const codes = Array.from({ length: 60 }, (_, n) => `K${n}`);
  const places = Array.from({ length: 100_000 }, (_, n) => {
    const code = Math.floor(Math.sqrt((n * 7919) % 3600));
    return `Place ${n},${codes[code]},${(((n * 37) % 1400) - 600) / 10},${(((n * 53) % 3400) - 1700) / 10}`;
  });
  await page.locator("input[data-pick=new]").setInputFiles({
    name: "places.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(`name,country_code,latitude,longitude\n${places.join("\n")}\n`),
  });
  const first = page.getByRole("region", { name: "First charts" });
  const map = first.getByRole("checkbox", { name: /Where they are/ });
  await expect(map).toBeChecked();
  await expect(first.getByText("one row of 34 is drawn here")).toBeVisible();
  expect(await map.locator("xpath=ancestor::label").locator("svg circle, svg path").count()).toBeGreaterThan(0);
  await first.getByText("Columns", { exact: true }).click();
  await first.getByRole("button", { name: /^write \d into the sheet/ }).click();
  await expect(desk.proof.getByRole("heading", { name: "Where they are" })).toBeVisible();
  await expect(desk.tally).toContainText("nothing to mend");
  const text = await keptText(page);
  expect(text).not.toContain("draw: summary");
  expect(text).toContain("sort: {y: -count()}\n    top: {y: 15}");
  // All of them answer each other.
  await atRest(desk);
  await desk.proof
    .locator("section[data-piece=by_group]")
    .getByRole("application")
    .click({ position: { x: 100, y: 30 } });
  await expect(desk.proof.locator(".sentence")).toContainText("where country code is");
  await writeFile(page);
  expect(said).toEqual([]);
});

test("tables come in by drop and by paste, and what cannot be taken is said", async ({ page }) => {
  const desk = await openDesk(page);
  await goTo(page, "Tables");
  const zone = page.getByRole("button", { name: "add a table" });
  await drop(zone, [{ name: "ships.csv", text: "name,length\nAda,12\nBo,9\n" }]);
  await expect(page.getByText("2 rows of 2 columns")).toBeVisible();
  await expect.poll(() => keptText(page)).toContain("  ships:\n    read: ships.csv\n");
  await drop(zone, [{ name: "letter.odt", text: "x" }]);
  await expect(desk.tally).toContainText('"letter.odt" was left out: tables are .csv');
  await page.getByRole("table", { name: "Rows of ships" }).focus();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData("text/plain", "berth\tdepth\nNorth\t4.5\nSouth\t7\n");
    document.activeElement?.dispatchEvent(new ClipboardEvent("paste", { bubbles: true, clipboardData: data }));
  });
  await expect(page.getByRole("table", { name: "Rows of pasted" })).toContainText("4.5");
  await drop(zone, [
    {
      name: "tide.ndjson",
      text: '{"at":"2024-01-01 06:00","level":{"m":1.5}}\n{"at":"2024-01-01 12:00","level":{"m":4.25}}\n',
    },
  ]);
  await expect(
    page.getByRole("table", { name: "Rows of tide" }).getByRole("columnheader", { name: /level\.m/ }),
  ).toContainText("number");
  await page.getByRole("button", { name: "undo" }).click();
  // One press takes each back, files and text together.
  await page.getByRole("button", { name: "undo" }).click();
  await expect(page.getByRole("button", { name: "pasted", exact: true })).toHaveCount(0);
  await page.getByRole("button", { name: "undo" }).click();
  await expect.poll(() => keptText(page)).not.toContain("ships");
});

test("a file that replaces another is one step back from undone", async ({ page }) => {
  const desk = await openDesk(page, "all calls");
  await goTo(page, "Tables");
  await drop(page.getByRole("button", { name: "add a table" }), [
    {
      name: "calls.csv",
      text: "call_id,vessel,berth,cargo,arrived,left,planned,waited,alongside,weight,tonnes,remarks\nC-1,Ada,Granary,grain,2024-01-01 10:00,2024-01-02 10:00,,3,10:00:00,1200,500,\n",
    },
  ]);
  await page
    .getByRole("dialog", { name: "calls.csv is here again" })
    .getByRole("button", { name: "replace it" })
    .click();
  await expect(desk.tally).toContainText("1 row in");
  await expect(desk.tally).toContainText("calls.csv was replaced; undo brings the old one back");
  await page.getByRole("button", { name: "undo" }).click();
  await expect(desk.tally).toContainText("24,616 rows in");
  await page.getByRole("button", { name: "redo" }).click();
  await expect(desk.tally).toContainText("1 row in");
});

test("gestures and text share one history, and a gesture keeps every other byte", async ({ page }) => {
  const desk = await openDesk(page);
  const before = await keptText(page);
  await exchange(desk, "title: Cargo by month", "title: First");
  const name = page.getByRole("textbox", { name: "Name of the report" });
  await name.fill("Second: a gesture");
  await name.press("Enter");
  await expect
    .poll(() => keptText(page))
    .toBe(
      before
        .replace("title: Cargo by month", "title: First")
        .replace("report: Quay calls", "report: 'Second: a gesture'"),
    );
  await goTo(page, "Pages");
  await page.getByRole("main").click({ position: { x: 700, y: 12 } });
  await page.keyboard.press("Control+z");
  await expect(name).toHaveValue("Quay calls");
  await page.keyboard.press("Control+z");
  await expect.poll(() => keptText(page)).toBe(before);
  await page.keyboard.press("Control+y");
  await expect.poll(() => keptText(page)).toContain("title: First");
});
