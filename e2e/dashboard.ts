import { readFileSync } from "node:fs";
import { resolve } from "node:path";
import { type BrowserContext, expect, type Locator, type Page } from "@playwright/test";
import Papa from "papaparse";
import type { StillHarbor } from "../src/viewer/api";
import { OUT } from "./prepare";

declare global {
  interface Window {
    stillHarbor: StillHarbor;
    ran?: number;
  }
}

export interface Opened {
  page: Page;
  requests: string[];
  errors: string[];
}

/** Opens a built file from disk with the network off; every request and error is kept. */
export async function openFile(context: BrowserContext, name: string, hash = ""): Promise<Opened> {
  const page = await context.newPage();
  await context.setOffline(true);
  const requests: string[] = [];
  const errors: string[] = [];
  page.on("request", (request) => requests.push(request.url()));
  page.on("console", (message) => {
    if (message.type() === "error" || message.type() === "warning") errors.push(message.text());
  });
  page.on("pageerror", (error) => errors.push(error.message));
  await page.goto(`file://${resolve(OUT, name)}${hash}`);
  await page.evaluate(() => window.stillHarbor.ready);
  return { page, requests, errors };
}

export const piece = (page: Page, name: string): Locator => page.locator(`section[data-piece=${name}]`);
export const plot = (page: Page, name: string): Locator => piece(page, name).getByRole("application");
export const rowsOf = (page: Page, name: string) => page.evaluate((of) => window.stillHarbor.rows(of), name);
export const stateOf = (page: Page) => page.evaluate(() => window.stillHarbor.state());
export const leftOf = (page: Page, table: string) =>
  page.evaluate((of) => window.stillHarbor.counts()[of]?.left, table);

/** Opens the menu of a piece and takes a line of it. */
export async function menu(page: Page, name: string, item: RegExp | string) {
  await piece(page, name).hover();
  await piece(page, name)
    .getByRole("button", { name: /^More for/ })
    .click();
  await page.getByRole("menu").getByText(item).click();
}

/** Drags over a chart by real pointer moves, between parts of its width. */
export async function drag(page: Page, name: string, from: number, to: number, height = 0.5, end = height) {
  await plot(page, name).scrollIntoViewIfNeeded();
  const box = await plot(page, name).boundingBox();
  if (!box) throw new Error(`${name} is not in sight`);
  const at = (part: number) => box.x + box.width * part;
  await page.mouse.move(at(from), box.y + box.height * height);
  await page.mouse.down();
  for (let step = 1; step <= 12; step++)
    await page.mouse.move(
      at(from + ((to - from) * step) / 12),
      box.y + box.height * (height + ((end - height) * step) / 12),
    );
  await page.mouse.up();
}

export interface Call {
  vessel: string;
  berth: string;
  cargo: string;
  month: string;
  waited: number;
  tonnes: number;
}

/** The calls of the demo by a plain reading of the file, cleaned as its sheet says. */
export function plainCalls(): Call[] {
  const { data } = Papa.parse<Record<string, string>>(readFileSync("examples/quay-calls/calls.csv", "utf8"), {
    header: true,
    skipEmptyLines: true,
  });
  const seen = new Set<string>();
  const calls: Call[] = [];
  for (const row of data) {
    const id = row.call_id ?? "";
    if (seen.has(id)) continue;
    seen.add(id);
    if (!(Number(row.tonnes) > 0) || !row.left) continue;
    calls.push({
      vessel: row.vessel ?? "",
      berth: row.berth ?? "",
      cargo: row.cargo ?? "",
      month: /^\d{4}-\d\d-\d\d \d/.test(row.arrived ?? "") ? `${row.arrived?.slice(0, 7)}-01` : "",
      waited: row.waited ? Number(row.waited) : Number.NaN,
      tonnes: Number(row.tonnes),
    });
  }
  return calls;
}

export function sumBy<K extends string>(calls: readonly Call[], key: (call: Call) => K): Map<K, number> {
  const sums = new Map<K, number>();
  for (const call of calls) sums.set(key(call), (sums.get(key(call)) ?? 0) + call.tonnes);
  return sums;
}

/** No error, and no request but for the file itself, once for every time it was loaded. */
export function expectNoNoise({ requests, errors }: Opened, loads = 1) {
  expect(errors).toEqual([]);
  expect(
    requests.filter((url) => !url.startsWith("file:") && !url.startsWith("data:") && !url.startsWith("blob:")),
  ).toEqual([]);
  expect(requests.filter((url) => url.startsWith("file:"))).toHaveLength(loads);
}
