import type { Page } from "@playwright/test";
import { median, ms, p95, say } from "./measure";
import { withWorkbench } from "./workbench";

/** Charts as an author has them on a working day: four that sum or count, a figure, a list. */
const CHARTS = (table: string) => `still: 1
report: Typing
tables:
  ${table}:
    read: ${table}.csv
    steps:
      - unique: [call_id]
      - keep: tonnes > 0
charts:
  total: {from: ${table}, draw: figure, value: sum(tonnes)}
  waiting: {from: ${table}, draw: bars, x: "bin(waited, 24)", y: count()}
  by_berth: {from: ${table}, draw: bars, y: berth, x: sum(tonnes), color: cargo}
  trend: {from: ${table}, draw: line, x: by_month(arrived), y: sum(tonnes), color: cargo}
  cargo: {from: ${table}, draw: bars, y: cargo, x: count()}
  list: {from: ${table}, draw: table, columns: [vessel, berth, tonnes]}
links:
  - cross-filter ${table}
about: Typed `;

/** A report of a table in the workbench, its sheet in hand and its proof shown. */
async function openReport(page: Page, csv: string, rows: number) {
  await page.locator("input[data-pick=new]").setInputFiles(csv);
  await page.getByText(/rows of 12 columns/).waitFor({ timeout: 120_000 });
  const sheet = page.getByRole("textbox", { name: "Sheet text" });
  await page.keyboard.press("Alt+4");
  await sheet.focus();
  await page.keyboard.press("Control+a");
  await page.keyboard.insertText(CHARTS(`calls_${rows}`).replaceAll(`calls_${rows}.csv`, `calls-${rows}.csv`));
  const proof = page.frameLocator("iframe:not([aria-hidden])");
  await proof.getByRole("heading", { name: "Typing" }).waitFor({ timeout: 120_000 });
  await page.waitForTimeout(1500);
}

/** The time from one keystroke to the proof that shows it, in milliseconds. */
async function keystroke(page: Page, key: string): Promise<number> {
  const before = await page.evaluate(() => performance.getEntriesByName("still-harbor proof").length);
  await page.evaluate(() =>
    document.addEventListener("keydown", () => performance.mark("still-harbor key"), { capture: true, once: true }),
  );
  await page.keyboard.type(key);
  await page.waitForFunction((count) => performance.getEntriesByName("still-harbor proof").length > count, before, {
    timeout: 120_000,
  });
  return page.evaluate(() => {
    const last = (name: string) => performance.getEntriesByName(name).at(-1)?.startTime ?? 0;
    return last("still-harbor proof") - last("still-harbor key");
  });
}

/**
 * From a keystroke in the sheet to the proof that shows it, in the workbench itself.
 * @param files for each number of rows a CSV named `calls-ROWS.csv`
 */
export async function benchKeystroke(files: readonly (readonly [rows: number, csv: string])[]) {
  await withWorkbench(async (opened) => {
    for (const [rows, csv] of files) {
      const page = await opened();
      await openReport(page, csv, rows);
      const spent: number[] = [];
      for (let key = 0; key < 12; key++) {
        // Words of the page grow: the tables stay, the page and its charts are made and drawn anew.
        spent.push(await keystroke(page, String(key % 10)));
        await page.waitForTimeout(150);
      }
      say(
        `keystroke to new proof, ${rows.toLocaleString("en")} rows`,
        `median ${ms(median(spent))}, p95 ${ms(p95(spent))}`,
        rows === 100_000 ? "100 ms" : undefined,
      );
      await page.context().close();
    }
  });
}
