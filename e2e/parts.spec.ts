import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { expect, type Page, test } from "@playwright/test";
import { prepareFiles } from "../src/core/compile/prepare";
import { buildDashboard } from "../src/core/dashboard/build";
import { PROOF_PART, scriptFor, scriptOf, type ViewerKit } from "../src/core/dashboard/parts";
import { expectNoNoise, leftOf, openFile, piece, rowsOf } from "./dashboard";
import { GALLERY } from "./gallery";
import { OUT } from "./prepare";

const FOLDER = `${OUT}/gallery`;

test.beforeAll(() => {
  mkdirSync(FOLDER, { recursive: true });
  for (const [path, text] of Object.entries(GALLERY)) writeFileSync(join(FOLDER, path), text);
});

/** Writes a report twice: with the parts of the viewer that its plan asks for, and with all of them. */
async function writeBoth(sheetPath: string, name: string) {
  const kit = JSON.parse(readFileSync(".build/viewer.json", "utf8")) as ViewerKit;
  const folder = dirname(sheetPath);
  const input = {
    text: readFileSync(sheetPath, "utf8"),
    fileName: "sheet.still.yaml",
    readFile: (path: string) =>
      existsSync(join(folder, path)) ? new Uint8Array(readFileSync(join(folder, path))) : undefined,
    listFiles: () => readdirSync(folder),
  };
  await prepareFiles(input);
  const all = Object.keys(kit.parts).filter((part) => part !== PROOF_PART);
  const [few, whole] = [scriptFor(kit), () => scriptOf(kit, all)].map(
    (viewer) => buildDashboard(input, { viewer }).html ?? "",
  ) as [string, string];
  expect(few.length).toBeGreaterThan(10_000);
  expect(whole.length).toBeGreaterThan(few.length);
  writeFileSync(`${OUT}/${name}-few.html`, few);
  writeFileSync(`${OUT}/${name}-all.html`, whole);
}

/** All that a reader and a script see. */
const seen = (page: Page) =>
  page.evaluate(async () => {
    // A sentence that has grown moves what is under it, which is measured and drawn in the frames after.
    await document.fonts.ready;
    for (let frame = 0; frame < 3; frame++) await new Promise(requestAnimationFrame);
    const pieces = [...document.querySelectorAll<HTMLElement>("[data-piece]")];
    return {
      state: window.stillHarbor.state(),
      pieces: pieces.map((section) => section.outerHTML),
      rows: pieces.map(({ dataset, className }) =>
        /note/.test(className) ? undefined : window.stillHarbor.rows(dataset.piece as string),
      ),
    };
  });

/** Of check boxes and legend entries so many are pressed, spread over all of them. */
const MOST_PRESSED = 6;

/** Drags over every plot in sight, then presses check boxes and legend entries, one after the other. */
async function gestures(page: Page): Promise<unknown[]> {
  const all: unknown[] = [await seen(page)];
  for (const plot of await page.getByRole("application").all()) {
    const box = await plot.boundingBox();
    if (!box) continue;
    await page.mouse.move(box.x + box.width * 0.3, box.y + box.height * 0.4);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width * 0.5, box.y + box.height * 0.6);
    await page.mouse.move(box.x + box.width * 0.6, box.y + box.height * 0.7);
    await page.mouse.up();
    all.push(await seen(page));
    // What the click does is seen with the next drag.
    await page.mouse.click(box.x + box.width * 0.55, box.y + box.height * 0.75);
  }
  all.push(await seen(page));
  const pressed = await page.locator("input[type=checkbox], .legend .entry > button:first-child").all();
  for (const one of pressed.filter((_, at) => at % Math.ceil(pressed.length / MOST_PRESSED) === 0)) {
    await one.click();
    all.push(await seen(page));
  }
  return all;
}

for (const [name, sheet] of [
  ["gallery", `${FOLDER}/gallery.still.yaml`],
  ["survey", "examples/survey/survey.still.yaml"],
  ["kinds", `${OUT}/kinds.still.yaml`],
  ["ways", `${OUT}/ways.still.yaml`],
] as const)
  test(`a file with the parts it needs answers as one with all of them: ${name}`, async ({ context }) => {
    await writeBoth(sheet, name);
    const answers: unknown[][] = [];
    for (const which of ["few", "all"]) {
      const opened = await openFile(context, `${name}-${which}.html`);
      answers.push(await gestures(opened.page));
      expectNoNoise(opened);
      await opened.page.close();
    }
    expect(answers[0]?.length).toBeGreaterThan(2);
    expect(new Set(answers[0]?.map((one) => JSON.stringify(one))).size).toBeGreaterThan(2);
    for (const [at, one] of (answers[0] ?? []).entries()) expect(one).toEqual(answers[1]?.[at]);
  });

test("controls, tables, figures and what sums up in the gallery answer", async ({ context }) => {
  await writeBoth(`${FOLDER}/gallery.still.yaml`, "gallery-used");
  const opened = await openFile(context, "gallery-used-few.html");
  const { page } = opened;
  expect((await rowsOf(page, "most")).length).toBe(3);
  await page.getByRole("spinbutton", { name: /first/ }).fill("3");
  await page.keyboard.press("Enter");
  await expect.poll(async () => (await rowsOf(page, "most")).length).toBe(4);
  await page.evaluate(() => window.stillHarbor.set("least", 500));
  const left = (await leftOf(page, "calls")) as number;
  expect(left).toBeGreaterThan(0);
  expect(left).toBeLessThan(240);
  await expect(piece(page, "rows")).toContainText(`of ${left} rows`);
  expect(await rowsOf(page, "columns")).toMatchObject([{ column: "tonnes", known: left }, {}, {}]);
  await piece(page, "rows")
    .getByRole("searchbox")
    .or(piece(page, "rows").getByRole("textbox", { name: /search/i }))
    .fill("granary");
  await expect(piece(page, "rows").getByRole("cell", { name: "Granary" }).first()).toBeVisible();
  await expect(piece(page, "rows").getByRole("cell", { name: "North" })).toHaveCount(0);
  await page.getByRole("button", { name: "Begin again" }).click();
  await expect.poll(() => leftOf(page, "calls")).toBe(240);
  expect((await rowsOf(page, "most")).length).toBe(3);
  await piece(page, "area").locator(".entry", { hasText: "grain" }).getByRole("button", { name: "only" }).focus();
  await page.keyboard.press("Enter");
  await expect
    .poll(async () => new Set(((await rowsOf(page, "area")) as { color: string }[]).map(({ color }) => color)))
    .toEqual(new Set(["grain"]));
  expectNoNoise(opened);
});
