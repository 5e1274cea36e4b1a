import { expect, type Page, test } from "@playwright/test";
import { expectNoNoise, leftOf, openFile, piece, rowsOf, stateOf } from "./dashboard";

const NEWER = "shop,day,amount\nb,2026-03-01,7\nc,2026-03-02,4\na,2026-04-02,0.5\nb,2026-05-02,2\n";

/** The line at the top that is always true. */
const said = (page: Page) => page.locator(".sentence");

/** Drops a file on the page, as a reader would from a folder. */
async function drop(page: Page, name: string, text: string) {
  const dataTransfer = await page.evaluateHandle(
    ([file, content]) => {
      const held = new DataTransfer();
      held.items.add(new File([content as string], file as string));
      return held;
    },
    [name, text],
  );
  await page.dispatchEvent("body", "dragover", { dataTransfer });
  await page.dispatchEvent("body", "drop", { dataTransfer });
}

test("a file dropped on a dashboard takes the place of its rows, and can be taken back", async ({ context }) => {
  const opened = await openFile(context, "open.html", "#towns=town:Westby");
  const { page } = opened;
  expect(await leftOf(page, "sales")).toBe(2);
  await drop(page, "march.csv", NEWER);
  await expect(said(page)).toContainText("Not the report's own rows: 4 rows of sales from march.csv");
  // What was picked stays so; the step that keeps went over the new rows.
  expect(await page.evaluate(() => window.stillHarbor.counts())).toEqual({ sales: { left: 2, all: 3 } });
  expect(await rowsOf(page, "towns")).toEqual([
    { x: 9, y: "Westby", color: "Westby" },
    { x: 4, y: null, color: null },
  ]);
  expect(await rowsOf(page, "days")).toEqual([
    { x: "2026-03-01", y: 7 },
    { x: "2026-04-01", y: 0 },
    { x: "2026-05-01", y: 2 },
  ]);
  // All of it answers: a bar is pressed, its rows are shown.
  await page.evaluate(() => window.stillHarbor.clear());
  await piece(page, "list").getByRole("button", { name: "shop" }).click();
  expect(((await rowsOf(page, "list")) as { shop: string }[]).map(({ shop }) => shop)).toEqual(["b", "b", "c"]);
  await page.getByText("How this was made").click();
  await expect(page.getByRole("contentinfo")).toContainText("4 rows of sales from march.csv");
  await page.getByRole("button", { name: "back to them" }).click();
  expect(await page.evaluate(() => window.stillHarbor.counts())).toEqual({ sales: { left: 3, all: 3 } });
  expect((await stateOf(page))["list.sort"]).toBe("shop");
  await expect(said(page)).not.toContainText("Not the report's own rows");
  expectNoNoise(opened);
});

test("what does not fit is said, and nothing changes", async ({ context }) => {
  const opened = await openFile(context, "open.html");
  const { page } = opened;
  await drop(page, "odd.csv", "shop,sum\na,1\n");
  await expect(said(page)).toContainText(
    "sales needs the columns day, amount, not there in odd.csv; there are shop, sum",
  );
  await drop(page, "odd.pdf", "%PDF");
  await expect(said(page)).toContainText("odd.pdf is none of the kinds that this dashboard reads");
  expect(await leftOf(page, "sales")).toBe(3);
  expectNoNoise(opened);
});

test("a file can be chosen by keyboard, and a script can put rows in", async ({ context }) => {
  const opened = await openFile(context, "open.html");
  const { page } = opened;
  await page.getByRole("button", { name: "Page menu" }).focus();
  await page.keyboard.press("Enter");
  const choosing = page.waitForEvent("filechooser");
  await page.getByRole("menuitem", { name: "put in other rows, from a file" }).press("Enter");
  await (await choosing).setFiles({ name: "march.csv", mimeType: "text/csv", buffer: Buffer.from(NEWER) });
  await expect(said(page)).toContainText("4 rows of sales from march.csv");
  await page.evaluate(() => window.stillHarbor.put("shops", [{ shop: "c", town: "Southby" }]));
  expect(await rowsOf(page, "towns")).toEqual([
    { x: 4, y: "Southby", color: "Southby" },
    { x: 9, y: null, color: null },
  ]);
  const refused = (table: string, rows: object[]) =>
    page.evaluate(([name, own]) => window.stillHarbor.put(name as string, own as object[]).catch(String), [
      table,
      rows,
    ] as const);
  expect(await refused("sales", [{ shop: "a" }])).toContain("sales needs the columns day, amount");
  expect(await refused("none", [])).toBe('RangeError: no rows can be put into "none"; there are shops, sales');
  expect(await leftOf(page, "sales")).toBe(3);
  expectNoNoise(opened);
});

test("a dashboard whose author did not say so takes no rows", async ({ context }) => {
  const { page } = await openFile(context, "ways.html");
  const answer = await page.evaluate(() => window.stillHarbor.put("t", []).catch(String));
  expect(answer).toContain("takes no other rows");
  await page.getByRole("button", { name: "Page menu" }).click();
  await expect(page.getByRole("menuitem", { name: /other rows/ })).toHaveCount(0);
});
