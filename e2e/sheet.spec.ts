import { expect } from "@playwright/test";
import { find, keptText, openDesk, test } from "./desk";

/** Presses until a proposal stands first, as an author does by typing on. */
const options = (page: import("@playwright/test").Page) => page.getByRole("listbox", { name: "Completions" });

test("a chart is written with what the sheet proposes", async ({ page }) => {
  const desk = await openDesk(page);
  // To the end of the part of charts: before links.
  await find(desk, "    page: [25, 100, all]");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Backspace");
  await page.keyboard.type("heavy:");
  await page.keyboard.press("Enter");
  const take = async (typed: string, label: string, detail: string | RegExp) => {
    await page.keyboard.type(typed);
    const option = options(page).getByRole("option", { selected: true });
    await expect(option).toContainText(label);
    await expect(option).toContainText(detail);
    await page.waitForTimeout(200);
    await page.keyboard.press("Enter");
    await expect(options(page)).toBeHidden();
  };
  await take("fr", "from", "table");
  await take("ca", "calls", "13 columns");
  await page.keyboard.press("Enter");
  await take("dr", "draw", /points/);
  await take("ba", "bars", "");
  await page.keyboard.press("Enter");
  await take("y", "y", "formula");
  await take("ber", "berth", /text: .*Salt Steps/);
  await page.keyboard.press("Enter");
  await take("x", "x", "formula");
  await take("medi", "median", "median(x)");
  await take("weig", "weight", /number/);
  await expect
    .poll(() => keptText(page))
    .toContain("  heavy:\n    from: calls\n    draw: bars\n    y: berth\n    x: median(weight)\n");
  await expect(desk.tally).toContainText("6 charts");
  await page.keyboard.press("Alt+2");
  await page.getByRole("list", { name: "All charts" }).getByRole("button", { name: /heavy/ }).click();
  // It stands on no page yet and is shown large all the same.
  await expect(desk.proof.locator("section[data-piece=heavy]")).toBeVisible();
  await expect(page.getByRole("list", { name: "From rows to marks" })).toContainText("7bars drawn");
});

test("links are proposed word by word", async ({ page }) => {
  const desk = await openDesk(page);
  await find(desk, "crosshair trend");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter");
  await page.keyboard.type("- le");
  await expect(options(page).getByRole("option").first()).toContainText("legend");
  await page.waitForTimeout(200);
  await page.keyboard.press("Enter");
  await page.keyboard.type("tre");
  await expect(options(page).getByRole("option").first()).toContainText("trend");
  await page.waitForTimeout(200);
  await page.keyboard.press("Enter");
  await page.keyboard.type(" -> fa");
  await expect(options(page).getByRole("option").first()).toContainText("fade");
  await page.waitForTimeout(200);
  await page.keyboard.press("Enter");
  await page.keyboard.type(" wai");
  await expect(options(page).getByRole("option").first()).toContainText("waiting");
  await page.waitForTimeout(200);
  await page.keyboard.press("Enter");
  await expect.poll(() => keptText(page)).toContain("  - legend on trend -> fade waiting\n");
  await expect(desk.tally).toContainText("4 links");
});

test("keys, functions and columns say what they are when they are pointed at", async ({ page }) => {
  await openDesk(page);
  const help = page.locator(".sheet-help");
  await page.locator(".part-function", { hasText: "hours" }).hover();
  await expect(help).toContainText("hours(length)");
  await expect(help).toContainText("A length of time in hours.");
  await page.mouse.move(5, 500);
  await page.locator(".part-key", { hasText: "unique" }).hover();
  await expect(help).toContainText("Drops rows that repeat earlier ones in these columns.");
  await page.mouse.move(5, 500);
  await page.locator(".part-column", { hasText: "alongside" }).hover();
  await expect(help).toContainText("alongside: duration");
});

test("parts fold, several cursors write at once, and the sheet narrows to a spine", async ({ page }) => {
  const desk = await openDesk(page);
  await expect(page.locator(".cm-line", { hasText: "unique: [call_id]" })).toBeVisible();
  await page.locator(".cm-foldGutter .cm-gutterElement").filter({ hasText: "⌄" }).first().click();
  await expect(page.locator(".cm-line", { hasText: "unique: [call_id]" })).toBeHidden();
  await page.getByRole("button", { name: "Fold the sheet away" }).click();
  await expect(desk.sheet).toBeHidden();
  await page.getByRole("navigation", { name: "Parts of the sheet" }).getByRole("button", { name: "links" }).click();
  await expect(desk.sheet).toBeFocused();
  expect(await page.evaluate(() => getSelection()?.toString())).toBe("links");
  await find(desk, "tonnage");
  // The word stands twice in the grid, once in a reason, and is a chart's name.
  for (let more = 0; more < 3; more++) await page.keyboard.press("Control+d");
  await page.keyboard.type("weight_in_all");
  await expect.poll(() => keptText(page)).not.toContain("tonnage  ");
  await expect.poll(async () => ((await keptText(page)).match(/weight_in_all/g) ?? []).length).toBe(4);
  await expect(desk.tally).toContainText("nothing to mend");
});

test("a report is opened at the top of its sheet, however far down another was read", async ({ page }) => {
  const before = await openDesk(page);
  await before.sheet.focus();
  await page.keyboard.press("Control+End");
  const top = page.locator(".cm-line", { hasText: "report: Quay calls" });
  await expect(top).not.toBeInViewport();
  await openDesk(page);
  await expect(top).toBeInViewport();
});
