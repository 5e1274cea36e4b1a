import { chromium } from "@playwright/test";
import { median, ms, p95, say } from "./measure";

interface Timed {
  firstPicture: number;
  ready: number;
}

/** Opens a built file in headless Chromium and moves its brush, one move a frame. */
export async function benchBrowser(file: string, what: string, goals: { ready?: string; frame?: string }) {
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
    args: ["--no-sandbox", "--disable-gpu", "--disable-background-networking"],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`file://${file}`, { waitUntil: "commit", timeout: 120_000 });
  const opened = await page.evaluate(async (): Promise<Timed> => {
    const sleep = () => new Promise((resolve) => setTimeout(resolve, 5));
    while (!("stillHarbor" in window)) await sleep();
    await (window as unknown as { stillHarbor: { ready: Promise<void> } }).stillHarbor.ready;
    const ready = performance.now();
    const paint = performance.getEntriesByName("first-contentful-paint")[0];
    return { firstPicture: paint?.startTime ?? Number.NaN, ready };
  });
  // Now and then a browser has painted before it keeps times.
  if (Number.isFinite(opened.firstPicture)) say(`${what}: open to first picture`, ms(opened.firstPicture));
  say(`${what}: open to answering a gesture`, ms(opened.ready), goals.ready);
  await page.waitForTimeout(300);
  const frames = await page.evaluate(async () => {
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
  say(
    `${what}: whole frame of a brush move`,
    `median ${ms(median(frames.work))}, p95 ${ms(p95(frames.work))}; frames come every ${ms(median(frames.apart))}, p95 ${ms(p95(frames.apart))}`,
    goals.frame,
  );
  await browser.close();
}
