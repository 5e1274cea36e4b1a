import { expect } from "@playwright/test";
import { axe, drop, goTo, keptText, openDesk, test } from "./desk";

/** Forty samples in rows, 600 markers in columns. */
const WIDE = [
  `sample,${Array.from({ length: 600 }, (_, at) => `marker_${at}`).join(",")}`,
  ...Array.from(
    { length: 40 },
    (_, row) => `S-${row},${Array.from({ length: 600 }, (_, at) => ((row * 31 + at * 7) % 97) / 10).join(",")}`,
  ),
].join("\n");

test("a table of hundreds of columns: a column is found by name, and one measure in many columns is made long", async ({
  page,
}) => {
  await openDesk(page);
  await goTo(page, "Tables");
  await drop(page.getByRole("main"), [{ name: "markers.csv", text: WIDE }]);
  await page.getByRole("button", { name: "markers", exact: true }).click();
  await expect(page.getByText("40 rows of 601 columns")).toBeVisible();
  const rows = page.getByRole("table", { name: "Rows of markers" });
  await expect(rows).toHaveAttribute("aria-colcount", "601");
  // Only what is in sight is drawn, and it says where it stands.
  expect(await rows.getByRole("columnheader").count()).toBeLessThan(40);
  const search = page.getByRole("searchbox", { name: "Find in markers" });
  await search.fill("marker_43");
  const found = page.getByRole("group", { name: "Columns of this name" });
  await expect(found.getByRole("button")).toHaveText([
    "marker_43",
    "marker_430",
    "marker_431",
    "marker_432",
    "marker_433",
    "marker_434",
    "marker_435",
    "marker_436",
  ]);
  await expect(found).toContainText("and 3 more");
  await found.getByRole("button", { name: "marker_431" }).click();
  await expect(search).toHaveValue("");
  const head = rows.getByRole("columnheader").filter({ hasText: "marker_431" });
  await expect(head).toBeInViewport();
  await expect(head).toHaveAttribute("aria-colindex", "433");
  await expect(head.getByRole("button")).toHaveAttribute("aria-pressed", "true");
  // Row S-2: (62 + 431 * 7) % 97 = 72.
  await expect(rows.locator("[aria-rowindex='4'] [aria-colindex='433']")).toHaveText(
    String(((2 * 31 + 431 * 7) % 97) / 10),
  );
  expect(await axe(page)).toEqual([]);
  await page.getByRole("button", { name: "all columns summed up" }).click();
  const summary = page.getByRole("region", { name: "All columns summed up" });
  await expect(summary.getByRole("rowheader")).toHaveCount(150);
  await summary.getByRole("button", { name: "150 more of 601 columns" }).click();
  await expect(summary.getByRole("rowheader")).toHaveCount(300);
  await page.getByRole("button", { name: "the rows" }).click();
  await page.getByRole("button", { name: "clear", exact: true }).click();
  await page.getByRole("toolbar", { name: "Add a step" }).getByRole("button", { name: "make long" }).click();
  await expect(page.getByText("600 of 601 are ticked.")).toBeVisible();
  await page.getByRole("button", { name: "write it into the sheet" }).click();
  await expect(page.getByText("24,000 rows of 3 columns")).toBeVisible();
  await expect
    .poll(() => keptText(page))
    .toContain("- unpivot: {columns: {all_but: [sample]}, name: name, value: value}");
});

test("a wide table that begins a report is offered to be made long before its first charts", async ({ page }) => {
  const desk = await openDesk(page);
  const months = Array.from({ length: 12 }, (_, at) => `2024-${String(at + 1).padStart(2, "0")}`);
  const csv = `berth,${months.join(",")}\n${["North", "South", "East"].map((berth, row) => `${berth},${months.map((_, at) => 100 + row * 13 + at * 5).join(",")}`).join("\n")}\n`;
  await page
    .locator("input[data-pick=new]")
    .setInputFiles({ name: "throughput.csv", mimeType: "text/csv", buffer: Buffer.from(csv) });
  const first = page.getByRole("region", { name: "First charts" });
  await expect(first).toContainText("2024-01, 2024-02 and 10 more columns look like one measure in many columns");
  await first.getByRole("button", { name: "make it long" }).click();
  await page.getByRole("button", { name: "write it into the sheet" }).click();
  await expect(page.getByText("36 rows of 3 columns")).toBeVisible();
  // Charts are offered for what it is now.
  await expect(first).toContainText("Value over time");
  await expect(first).not.toContainText("many columns");
  await first.getByRole("button", { name: /^write \d into the sheet/ }).click();
  await expect(desk.proof.getByRole("heading", { name: "Value over time", exact: true })).toBeVisible();
  const download = page.waitForEvent("download");
  await page.keyboard.press("Control+s");
  await download;
});
