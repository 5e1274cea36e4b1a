import type { Page } from "@playwright/test";
import { ms, say } from "./measure";
import { withWorkbench } from "./workbench";

/** A table is given, its first charts are taken as they are offered, and the dashboard is written as a file. */
async function begin(page: Page, csv: string) {
  await page.locator("input[data-pick=new]").setInputFiles(csv);
  await page
    .getByRole("region", { name: "First charts" })
    .getByRole("button", { name: /^write \d into the sheet/ })
    .click({ timeout: 300_000 });
  const proof = page.frameLocator("iframe[title='The dashboard as it stands']");
  await proof.getByRole("application").first().waitFor({ timeout: 300_000 });
  const download = page.waitForEvent("download", { timeout: 300_000 });
  await page.keyboard.press("Control+s");
  await (await download).path();
}

/**
 * From a raw file to a written dashboard of its first charts, in the workbench.
 * @param files for each number of rows a CSV
 */
export async function benchBegin(files: readonly (readonly [rows: number, csv: string])[]) {
  await withWorkbench(async (opened) => {
    for (const [rows, csv] of files) {
      const page = await opened();
      const start = performance.now();
      await begin(page, csv);
      say(
        `from a raw file to a written dashboard of its first charts, ${rows.toLocaleString("en")} rows`,
        ms(performance.now() - start),
      );
      await page.context().close();
    }
  });
}
