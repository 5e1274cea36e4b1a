import { chromium, type Page } from "@playwright/test";
import { CHROMIUM } from "../tools/chromium";
import { median, ms, p95, say } from "./measure";

/** The installed browser, as dashboards are read in it. */
export const launch = () => chromium.launch(CHROMIUM);

interface Timed {
  firstPicture: number;
  ready: number;
}

/** How long a file takes from being opened, in milliseconds; a picture that was not timed is not a number. */
async function openingOf(page: Page): Promise<Timed> {
  return page.evaluate(async (): Promise<Timed> => {
    const sleep = () => new Promise((resolve) => setTimeout(resolve, 5));
    while (!("stillHarbor" in window)) await sleep();
    await (window as unknown as { stillHarbor: { ready: Promise<void> } }).stillHarbor.ready;
    const ready = performance.now();
    const paint = performance.getEntriesByName("first-contentful-paint")[0];
    return { firstPicture: paint?.startTime ?? Number.NaN, ready };
  });
}

/** A brush on "waiting" moved 120 times, once a frame: the work of each frame, and how far frames lie apart. */
async function framesOf(page: Page): Promise<{ work: number[]; apart: number[] }> {
  return page.evaluate(async () => {
    const target = document.querySelector<HTMLElement>("section[data-piece=waiting] .catch") as HTMLElement;
    const box = target.getBoundingClientRect();
    const fire = (type: string, part: number) =>
      target.dispatchEvent(
        new PointerEvent(type, {
          bubbles: true,
          button: 0,
          pointerId: 1,
          clientX: box.left + box.width * part,
          clientY: box.top + box.height / 2,
        }),
      );
    target.setPointerCapture = () => undefined;
    target.hasPointerCapture = () => false;
    const channel = new MessageChannel();
    /** When the next frame begins, and when all of it is done: compute, drawing, layout and paint. */
    const frame = () =>
      new Promise<[begun: number, done: number]>((resolve) =>
        requestAnimationFrame(() => {
          const begun = performance.now();
          // A message that is sent within a frame arrives once the page has been laid out and painted.
          channel.port1.onmessage = () => resolve([begun, performance.now()]);
          channel.port2.postMessage(0);
        }),
      );
    fire("pointerenter", 0.2);
    await new Promise((resolve) => setTimeout(resolve, 3000));
    fire("pointerdown", 0.2);
    const work: number[] = [];
    const apart: number[] = [];
    let before = 0;
    for (let i = 0; i < 120; i++) {
      const next = frame();
      const started = performance.now();
      fire("pointermove", 0.25 + (i / 120) * 0.5);
      const handled = performance.now() - started;
      const [begun, done] = await next;
      work.push(handled + done - begun);
      apart.push(begun - before);
      before = begun;
    }
    fire("pointerup", 0.75);
    return { work: work.slice(5), apart: apart.slice(5) };
  });
}

/** Opens a built file in headless Chromium and moves its brush, one move a frame. */
export async function benchBrowser(file: string, what: string, goals: { ready?: string; frame?: string }) {
  const browser = await launch();
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`file://${file}`, { waitUntil: "commit", timeout: 120_000 });
  const opened = await openingOf(page);
  // Now and then a browser has painted before it keeps times.
  if (Number.isFinite(opened.firstPicture)) say(`${what}: open to first picture`, ms(opened.firstPicture));
  say(`${what}: open to answering a gesture`, ms(opened.ready), goals.ready);
  await page.waitForTimeout(300);
  const { work, apart } = await framesOf(page);
  const frames = `median ${ms(median(work))}, p95 ${ms(p95(work))}`;
  const come = `frames come every ${ms(median(apart))}, p95 ${ms(p95(apart))}`;
  say(`${what}: whole frame of a brush move`, `${frames}; ${come}`, goals.frame);
  await browser.close();
}
