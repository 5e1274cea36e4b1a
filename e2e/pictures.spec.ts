import { readdirSync, readFileSync } from "node:fs";
import { type BrowserContext, expect, type Page, test } from "@playwright/test";
import { openFile, piece, plot } from "./dashboard";

/** Marks drawn on a canvas and marks written as SVG are the same picture, for every chart of the gallery. */

const GALLERY = readdirSync("examples/gallery")
  .filter((file) => file.endsWith(".still.yaml"))
  .map((file) => file.replace(".still.yaml", ""));

/** Side of the squares over which colours are averaged, in pixels: letters may lie a part of a pixel apart. */
const SIDE = 4;

/** The part of two pictures in which they differ by more than a shade, 0 to 1. */
async function difference(page: Page, pictures: Buffer[]): Promise<number> {
  return page.evaluate(
    async ([urls, side]) => {
      const shrunk = await Promise.all(
        urls.map(async (url) => {
          const image = await createImageBitmap(await (await fetch(url)).blob());
          const [width, height] = [Math.floor(image.width / side), Math.floor(image.height / side)];
          const context = new OffscreenCanvas(width, height).getContext("2d") as OffscreenCanvasRenderingContext2D;
          context.imageSmoothingQuality = "high";
          context.drawImage(image, 0, 0, width * side, height * side, 0, 0, width, height);
          return context.getImageData(0, 0, width, height).data;
        }),
      );
      const [a, b] = shrunk as [Uint8ClampedArray, Uint8ClampedArray];
      if (a.length !== b.length) return 1;
      let differing = 0;
      for (let at = 0; at < a.length; at += 4) {
        const apart = [0, 1, 2].map((channel) => Math.abs((a[at + channel] as number) - (b[at + channel] as number)));
        if (Math.max(...apart) > 48) differing += 1;
      }
      return differing / (a.length / 4);
    },
    [pictures.map((png) => `data:image/png;base64,${png.toString("base64")}`), SIDE] as const,
  );
}

/** The chart as its menu gives it away, drawn by the browser from the SVG alone. */
async function written(context: BrowserContext, page: Page, name: string): Promise<Buffer> {
  const download = page.waitForEvent("download");
  await piece(page, name).hover({ position: { x: 5, y: 5 } });
  await piece(page, name)
    .getByRole("button", { name: /^Menu of/ })
    .click();
  await page.getByRole("menuitem", { name: "picture, SVG" }).click();
  const svg = readFileSync(await (await download).path(), "utf8");
  const [, x, y, width, height] = /<svg x="([\d.]+)" y="([\d.]+)" width="([\d.]+)" height="([\d.]+)"/.exec(svg) ?? [];
  const blank = await context.newPage();
  await blank.setContent(`<body style="margin:0">${svg}</body>`);
  const clip = { x: Number(x), y: Number(y), width: Number(width), height: Number(height) };
  const png = await blank.screenshot({ clip, fullPage: true });
  await blank.close();
  return png;
}

for (const name of GALLERY)
  test(`canvas and SVG of ${name} agree`, async ({ context }) => {
    const { page } = await openFile(context, `${name}.html`);
    const blank = await context.newPage();
    const charts = await page
      .locator("section[data-piece]:has(canvas)")
      .evaluateAll((all) => all.map((one) => (one as HTMLElement).dataset.piece as string));
    for (const chart of charts) {
      await plot(page, chart).scrollIntoViewIfNeeded();
      await page.mouse.move(1, 1);
      const drawn = await plot(page, chart).screenshot();
      const picture = await written(context, page, chart);
      expect(await difference(blank, [drawn, picture]), chart).toBeLessThan(0.02);
    }
    expect(name === "numbers" || charts.length > 2).toBe(true);
  });
