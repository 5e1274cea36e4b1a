import { readdirSync, readFileSync } from "node:fs";
import { expect, type Page, test } from "@playwright/test";
import { drag, menu, openFile, rowsOf } from "./dashboard";

/** Marks drawn on a canvas and marks written as SVG are the same picture, for every chart of the gallery. */

const GALLERY = readdirSync("examples/gallery")
  .filter((file) => file.endsWith(".still.yaml"))
  .map((file) => file.replace(".still.yaml", ""));

/** Side of the squares over which colours are averaged, in pixels: letters may lie a part of a pixel apart. */
const SIDE = 4;
/** Edges of words and marks are smoothed in two ways. */
const MOST = 0.035;

interface Place {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** The part of each place in which two pictures differ by more than a shade, 0 to 1. */
async function differences(page: Page, pictures: Buffer[], places: Place[]): Promise<number[]> {
  return page.evaluate(
    async ([urls, side, all]) => {
      const images = await Promise.all(urls.map(async (url) => createImageBitmap(await (await fetch(url)).blob())));
      return all.map(({ x, y, width, height }) => {
        const [columns, rows] = [Math.floor(width / side), Math.floor(height / side)];
        const [a, b] = images.map((image) => {
          const context = new OffscreenCanvas(columns, rows).getContext("2d") as OffscreenCanvasRenderingContext2D;
          context.imageSmoothingQuality = "high";
          context.drawImage(image, x, y, columns * side, rows * side, 0, 0, columns, rows);
          return context.getImageData(0, 0, columns, rows).data;
        }) as [Uint8ClampedArray, Uint8ClampedArray];
        let differing = 0;
        for (let at = 0; at < a.length; at += 4) {
          const apart = [0, 1, 2].map((channel) => Math.abs((a[at + channel] as number) - (b[at + channel] as number)));
          if (Math.max(...apart) > 48) differing += 1;
        }
        return differing / (a.length / 4);
      });
    },
    [pictures.map((png) => `data:image/png;base64,${png.toString("base64")}`), SIDE, places] as const,
  );
}

/** The chart as its menu gives it away. */
async function written(page: Page, name: string): Promise<string> {
  const download = page.waitForEvent("download");
  await menu(page, name, "picture, SVG");
  return readFileSync(await (await download).path(), "utf8");
}

/** Lays pictures over the page so that each plot stands where the live one does; answers where that is. */
const layOver = (page: Page, pictures: Record<string, string>) =>
  page.evaluate(
    (all) =>
      Object.entries(all).map(([name, text]) => {
        const live = document.querySelector(`section[data-piece=${name}] [role=application]`) as HTMLElement;
        const { left, top, width, height } = live.getBoundingClientRect();
        const over = document.createElement("div");
        over.innerHTML = text;
        document.body.append(over);
        const inner = over.querySelector("svg svg") as SVGSVGElement;
        const [x, y] = [left + scrollX, top + scrollY];
        Object.assign(over.style, { position: "absolute", zIndex: "99" });
        over.style.left = `${x - inner.x.baseVal.value}px`;
        over.style.top = `${y - inner.y.baseVal.value}px`;
        // Titles of one picture would lie over the plot of another.
        over.style.clipPath = `inset(${inner.y.baseVal.value}px 0 0 ${inner.x.baseVal.value}px)`;
        return { x, y, width, height };
      }),
    pictures,
  );

for (const name of GALLERY)
  test(`canvas and SVG of ${name} agree`, async ({ context }) => {
    const { page } = await openFile(context, `${name}.html`);
    const charts = await page
      .locator("section[data-piece]:has(canvas)")
      .evaluateAll((all) => all.map((one) => (one as HTMLElement).dataset.piece as string));
    const pictures: Record<string, string> = {};
    for (const chart of charts) pictures[chart] = await written(page, chart);
    await page.mouse.move(1, 1);
    const drawn = await page.screenshot({ fullPage: true });
    const places = await layOver(page, pictures);
    const laid = await page.screenshot({ fullPage: true });
    // A page behind another is drawn once a second: the one that compares is opened last.
    const blank = await context.newPage();
    const found = await differences(blank, [drawn, laid], places);
    found.forEach((part, at) => {
      expect(part, charts[at]).toBeLessThan(MOST);
    });
    expect(name === "numbers" || charts.length > 2).toBe(true);
  });

/** The pixels of a chart's canvas, as one text. */
const pixelsOf = (page: Page, name: string) =>
  page
    .locator(`section[data-piece=${name}] canvas`)
    .first()
    .evaluate((canvas) => (canvas as HTMLCanvasElement).toDataURL());

test("a crowd that follows a brush point by point looks as one that is drawn at once", async ({ context }) => {
  const { page } = await openFile(context, "crowd.html");
  const whole = await pixelsOf(page, "kinds");
  await drag(page, "over", 0.1, 0.9);
  // Dragged along a little, and made wider at one end.
  await drag(page, "over", 0.5, 0.46);
  await drag(page, "over", 0.86, 0.92);
  const left = (await rowsOf(page, "kinds")).length;
  // Fewer points than a crowd has are drawn one by one.
  expect(left).toBeGreaterThan(20_000);
  expect(left).toBeLessThan(29_000);
  // Points of another size are another picture of the same rows.
  const small = await pixelsOf(page, "kinds");
  await page.evaluate(() => window.stillHarbor.set("area", 50));
  expect(await pixelsOf(page, "kinds")).not.toBe(small);
  const followed = [await pixelsOf(page, "kinds"), await pixelsOf(page, "faint")];
  expect(followed[0]).not.toBe(whole);
  const at = new URL(page.url()).hash;
  const fresh = (await openFile(context, "crowd.html", at)).page;
  expect((await rowsOf(fresh, "kinds")).length).toBe(left);
  expect([await pixelsOf(fresh, "kinds"), await pixelsOf(fresh, "faint")]).toEqual(followed);
});
