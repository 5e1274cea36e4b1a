import { readdirSync, readFileSync } from "node:fs";
import { expect, type Page, test } from "@playwright/test";
import { zipSync } from "fflate";
import { type OpenDesk, openDesk } from "./desk";
import { OUT } from "./prepare";
import { kindsIn, sampled } from "./sample";

const isSheet = (name: string) => name.endsWith(".still.yaml");

/** Every example by its folder and sheet; of one with editions the terminal writes several files. */
const EXAMPLES = readdirSync("examples", { withFileTypes: true })
  .filter((folder) => folder.isDirectory() && folder.name !== "make" && folder.name !== "quay-calls")
  .flatMap(({ name: folder }) => readdirSync(`examples/${folder}`).map((sheet) => ({ folder, sheet })))
  .filter(({ folder, sheet }) => isSheet(sheet) && !/^editions:/m.test(read(folder, sheet).toString()));

function read(folder: string, name: string): Buffer {
  return readFileSync(`examples/${folder}/${name}`);
}

/** One report with the files beside it, as a person keeps it. */
function zipOf(folder: string, sheet: string): Buffer {
  const names = readdirSync(`examples/${folder}`).filter((name) => name === sheet || !isSheet(name));
  return Buffer.from(zipSync(Object.fromEntries(names.map((name) => [name, new Uint8Array(read(folder, name))]))));
}

/** Opens a zip, and waits until its own dashboard stands there. */
async function openZip({ page, proof, tally }: OpenDesk, folder: string, sheet: string) {
  const name = sheet.replace(".yaml", ".zip");
  const buffer = zipOf(folder, sheet);
  const report = /^report: (.*)$/m.exec(read(folder, sheet).toString())?.[1] as string;
  await page.getByRole("button", { name: "reports" }).click();
  const chooser = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "open a .still.zip or a dashboard" }).click();
  await (await chooser).setFiles({ name, mimeType: "application/zip", buffer });
  await expect(proof.getByRole("heading", { name: report, level: 1 })).toBeVisible();
  await expect(tally).toContainText("nothing to mend");
}

async function writtenFile(page: Page) {
  const download = page.waitForEvent("download");
  await page.keyboard.press("Control+s");
  const saved = await download;
  return { name: saved.suggestedFilename(), bytes: readFileSync(await saved.path()) };
}

test("examples written in the browser have the bytes that the terminal writes", async ({ page }) => {
  const desk = await openDesk(page);
  const mine = sampled(EXAMPLES, ({ folder }) => kindsIn(folder));
  expect(mine.length).toBeGreaterThan(8);
  for (const { folder, sheet } of mine) {
    await openZip(desk, folder, sheet);
    const { name, bytes } = await writtenFile(page);
    const html = sheet.replace(".still.yaml", ".html");
    expect(name).toBe(html);
    expect([sheet, bytes.equals(readFileSync(`${OUT}/${html}`))]).toEqual([sheet, true]);
  }
});
