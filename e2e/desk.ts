import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { test as base, expect, type FrameLocator, type Locator, type Page } from "@playwright/test";
import AxeSource from "axe-core";

export const ADDRESS = "http://127.0.0.1:3411/";

export interface OpenDesk {
  page: Page;
  /** The sheet's editor. */
  sheet: Locator;
  proof: FrameLocator;
  tally: Locator;
  findings: Locator;
}

export const parts = (page: Page): OpenDesk => ({
  page,
  sheet: page.getByRole("textbox", { name: "Sheet text" }),
  proof: page.frameLocator("iframe[title='The dashboard as it stands']"),
  tally: page.getByRole("status", { name: "The report in numbers" }),
  findings: page.getByRole("list", { name: "Findings" }),
});

const SIZE = { width: 1280, height: 800 };

/**
 * For tests that need no browser of their own: one workbench stands open for many of them, and each begins with the
 * demo report anew (`openDesk`), as somebody does who works on for a day. Loading it takes five times as long as that.
 * A test that fails takes the workbench with it.
 */
export const test = base.extend<object, { standing: Page }>({
  standing: [
    async ({ browser }, use) => {
      const context = await browser.newContext({ viewport: SIZE });
      await use(await context.newPage());
      await context.close();
    },
    { scope: "worker" },
  ],
  context: ({ standing }, use) => use(standing.context()),
  page: async ({ standing }, use) => {
    await use(standing);
    await standing.unrouteAll();
    for (const event of ["console", "pageerror", "request"] as const) standing.removeAllListeners(event);
    await standing.setViewportSize(SIZE);
  },
});

/** Rows of the demo's table where a test is about none of them: each compile of all takes a second of processor. */
const SOME_CALLS = 2000;

let someCalls: string | undefined;

/** The demo report anew, in a workbench that stands open, at the station that a first visit begins with. */
async function beginAnew(page: Page) {
  const before = page.url();
  // Whatever was left open, in hand or pressed.
  for (let layer = 0; layer < 3; layer++) await page.keyboard.press("Escape");
  await page.keyboard.press("Control+k");
  await page.getByRole("menuitem", { name: "Open the demo report anew" }).click();
  await expect.poll(() => page.url()).not.toBe(before);
  await goTo(page, "Pages");
}

/**
 * Opens the workbench as somebody who was never here before, or one that stands open anew: on the demo report.
 * @param calls all rows of its table, where they are counted or there must be many; else the first of them
 */
export async function openDesk(page: Page, calls: "some calls" | "all calls" = "some calls"): Promise<OpenDesk> {
  if (calls === "some calls") {
    someCalls ??= readFileSync("public/demo/calls.csv", "utf8").split("\n", SOME_CALLS).join("\n");
    await page.route("**/demo/calls.csv", (route) => route.fulfill({ contentType: "text/csv", body: someCalls }));
  }
  if (page.url().startsWith(ADDRESS)) await beginAnew(page);
  else await page.goto(ADDRESS);
  const desk = parts(page);
  await expect(desk.proof.getByRole("heading", { name: "Quay calls" })).toBeVisible();
  await expect(desk.tally).toContainText("nothing to mend");
  return desk;
}

/**
 * Waits until the author rests and the file itself is what is seen: a gesture that falls into the moment in which it
 * takes the proof's place would be made on a frame that is about to go.
 */
export const atRest = ({ page }: OpenDesk) =>
  expect(page.locator("iframe[title='The dashboard as it stands'][data-shows=file]")).toBeVisible();

/** What the browser keeps of the open report. */
export async function kept(
  page: Page,
): Promise<{ text: string; files: [string, string][]; sheetName: string } | undefined> {
  return page.evaluate(
    () =>
      new Promise((found, failed) => {
        const id = new URL(location.href).searchParams.get("report") ?? "";
        const opening = indexedDB.open("still-harbor");
        opening.onerror = () => failed(opening.error);
        opening.onsuccess = () => {
          const row = opening.result.transaction("projects").objectStore("projects").get(id);
          row.onsuccess = () => {
            opening.result.close();
            found(row.result);
          };
          row.onerror = () => failed(row.error);
        };
      }),
  );
}

export const keptText = async (page: Page) => (await kept(page))?.text ?? "";

/** Writes a whole new sheet in place of the old one, by keyboard. */
export async function rewrite({ page, sheet }: OpenDesk, text: string) {
  await sheet.focus();
  await page.keyboard.press("Control+a");
  await page.keyboard.insertText(text);
}

/** Selects a stretch of the sheet by finding it. */
export async function find({ page, sheet }: OpenDesk, text: string) {
  await sheet.focus();
  await page.keyboard.press("Control+f");
  const field = page.getByRole("textbox", { name: "Find" });
  await field.fill(text);
  // The search begins when a key is let go.
  await field.press("End");
  await field.press("Enter");
  await field.press("Escape");
}

/** Exchanges a stretch of the sheet by finding it and writing over it, as an author does. */
export async function exchange(desk: OpenDesk, from: string, to: string) {
  const text = await keptText(desk.page);
  if (!text.includes(from)) throw new Error(`the sheet does not hold ${from}`);
  await find(desk, from);
  await desk.page.keyboard.insertText(to);
}

/** Where a chart of the proof is, in sight; asked again should its frame give way to another meanwhile. */
export async function boxOf(chart: Locator) {
  let box: Awaited<ReturnType<Locator["boundingBox"]>> = null;
  await expect(async () => {
    await chart.scrollIntoViewIfNeeded();
    box = await chart.boundingBox();
  }).toPass();
  if (!box) throw new Error("no chart");
  return box as { x: number; y: number; width: number; height: number };
}

/** Drags over a chart of the proof by real pointer moves. */
export async function brush(page: Page, chart: Locator, from: number, to: number) {
  const box = await boxOf(chart);
  await page.mouse.move(box.x + from, box.y + 60);
  await page.mouse.down();
  for (let step = 1; step <= 10; step++) await page.mouse.move(box.x + from + ((to - from) * step) / 10, box.y + 60);
  await page.mouse.up();
}

export async function goTo(page: Page, station: string) {
  await page
    .getByRole("navigation", { name: "Stations" })
    .getByRole("button", { name: new RegExp(`^${station}`) })
    .click();
  await expect(page.getByRole("main", { name: station })).toBeVisible();
}

/**
 * What axe finds on the page as it stands, by some of its rules or by all. The proof's frame is left aside, and so are
 * small pictures of charts: they are hidden from readers of the page, and looked at in dashboards.
 */
export async function axe(page: Page, rules?: readonly string[]): Promise<string[]> {
  await page.evaluate(AxeSource.source);
  return page.evaluate(async (only) => {
    type Run = (
      context: object,
      options: object,
    ) => Promise<{ violations: { id: string; nodes: { html: string }[] }[] }>;
    const { axe: check } = window as unknown as { axe: { run: Run } };
    const options = { resultTypes: ["violations"], ...(only ? { runOnly: only } : {}) };
    return (await check.run({ exclude: ["iframe", "[aria-hidden=true] > svg"] }, options)).violations.map(
      ({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 160)).join(" | ")}`,
    );
  }, rules);
}

/** Drops files on an element as from the desktop: real files, by the browser's own drag. */
export async function drop(
  target: Locator,
  files: ({ name: string; text: string } | { name: string; bytes: Uint8Array })[],
) {
  const page = target.page();
  const folder = mkdtempSync(join(tmpdir(), "drop-"));
  const paths = files.map((file) => {
    writeFileSync(join(folder, file.name), "text" in file ? file.text : file.bytes);
    return join(folder, file.name);
  });
  const box = await target.boundingBox();
  if (!box) throw new Error("there is nothing to drop on");
  const session = await page.context().newCDPSession(page);
  const at = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  const send = (type: "dragEnter" | "dragOver" | "drop") =>
    session.send("Input.dispatchDragEvent", { type, ...at, data: { items: [], files: paths, dragOperationsMask: 1 } });
  // A busy page answers late that it takes the files; before it has, the browser lets go of them. As long as a hand
  // holds them over the window, the browser says so again and again.
  await expect
    .poll(async () => {
      await send("dragEnter");
      await send("dragOver");
      return page.evaluate(() => document.documentElement.classList.contains("dragging"));
    })
    .toBe(true);
  await send("dragOver");
  await send("drop");
  await session.detach();
}

/** Messages that no page of ours may print. */
export function complaints(page: Page): string[] {
  const found: string[] = [];
  page.on("console", (message) => {
    if (message.type() === "error" || message.type() === "warning") found.push(message.text());
  });
  page.on("pageerror", (fault) => found.push(fault.message));
  return found;
}
