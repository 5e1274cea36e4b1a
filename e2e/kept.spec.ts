import { expect, test } from "@playwright/test";
import { ADDRESS, axe, drop, exchange, goTo, keptText, openDesk, parts } from "./desk";

const HARBOUR = "berth,ships\nNorth Mole,12\nGranary,7\n";

test("what the browser has lost while the report is open is written again, its tables too", async ({ page }) => {
  const desk = await openDesk(page, "all calls");
  await exchange(desk, "report: Quay calls", "report: Still here");
  await expect.poll(() => keptText(page)).toContain("Still here");
  await page.evaluate(
    () =>
      new Promise<void>((done, failed) => {
        const opening = indexedDB.open("still-harbor");
        opening.onsuccess = () => {
          const clearing = opening.result.transaction(["projects", "contents", "versions"], "readwrite");
          for (const name of ["projects", "contents", "versions"]) clearing.objectStore(name).clear();
          clearing.oncomplete = () => {
            opening.result.close();
            done();
          };
          clearing.onerror = () => failed(clearing.error);
        };
      }),
  );
  await expect.poll(() => keptText(page), { timeout: 20_000 }).toContain("Still here");
  const contents = () =>
    page.evaluate(
      () =>
        new Promise<number>((done) => {
          const opening = indexedDB.open("still-harbor");
          opening.onsuccess = () => {
            const counting = opening.result.transaction("contents").objectStore("contents").count();
            counting.onsuccess = () => {
              opening.result.close();
              done(counting.result);
            };
          };
        }),
    );
  await expect.poll(contents, { timeout: 20_000 }).toBe(1);
  await page.reload();
  await expect(desk.proof.getByRole("heading", { name: "Still here", level: 1 })).toBeVisible();
  await expect(desk.tally).toContainText("24,178 kept");
});

test("who leaves within a moment of the last key finds it written", async ({ page }) => {
  const desk = await openDesk(page);
  for (let round = 0; round < 3; round++) {
    const last = `report: Left in haste ${round}`;
    await exchange(desk, round ? `report: Left in haste ${round - 1}` : "report: Quay calls", last);
    const address = page.url();
    await page.goto("about:blank");
    await page.goto(address);
    await expect(desk.proof.getByRole("heading", { name: `Left in haste ${round}`, level: 1 })).toBeVisible();
    expect(await keptText(page)).toContain(last);
  }
});

test("files are taken wherever in the window they are dropped, and those that are left out are named", async ({
  page,
}) => {
  const desk = await openDesk(page);
  // On the sheet, where an editor would take a file for text.
  await drop(page.locator(".cm-line").nth(3), [{ name: "ships.csv", text: HARBOUR }]);
  await expect.poll(() => keptText(page)).toContain("read: ships.csv");
  await goTo(page, "Publish");
  await drop(page.getByRole("main"), [
    { name: "cranes.csv", text: HARBOUR },
    { name: "photo.psd", text: "x" },
    { name: "letter.doc", text: "x" },
  ]);
  await expect.poll(() => keptText(page)).toContain("read: cranes.csv");
  await expect(desk.tally).toContainText('"photo.psd" was left out');
  await expect(desk.tally).toContainText('"letter.doc" was left out');
  // Over the proof, whose frame is a page of its own: it says that a file comes, and takes no notice of it.
  await goTo(page, "Pages");
  await desk.proof.getByRole("heading", { name: "Quay calls" }).evaluate((heading) => {
    const carried = new DataTransfer();
    carried.items.add(new File(["x"], "x.csv"));
    heading.dispatchEvent(new DragEvent("dragenter", { dataTransfer: carried, bubbles: true, cancelable: true }));
  });
  await expect(page.locator("html")).toHaveClass(/dragging/);
  await drop(page.locator("iframe[title='The dashboard as it stands']"), [{ name: "pilots.csv", text: HARBOUR }]);
  await expect.poll(() => keptText(page)).toContain("read: pilots.csv");
  await expect(page.getByRole("main", { name: "Tables" })).toBeVisible();
});

test("at 360, 480 and 768 px every station can be pressed, and nothing lies over another", async ({ browser }) => {
  const context = await browser.newContext({ viewport: { width: 360, height: 800 } });
  const page = await context.newPage();
  await page.goto(ADDRESS);
  await expect(parts(page).proof.getByRole("heading", { name: "Quay calls" })).toBeVisible();
  for (const width of [360, 480, 768]) {
    await page.setViewportSize({ width, height: 800 });
    for (const station of ["Tables", "Charts", "Links", "Publish", "Pages"]) {
      await goTo(page, station);
      const outside = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
      expect(outside, `${station} at ${width}`).toBeLessThanOrEqual(0);
    }
    const boxes = await page
      .getByRole("banner")
      .getByRole("button")
      .evaluateAll((buttons) =>
        buttons
          .map((one) => one.getBoundingClientRect())
          .map(({ left, right, top, bottom }) => ({ left, right, top, bottom })),
      );
    for (const [at, one] of boxes.entries())
      for (const other of boxes.slice(at + 1))
        expect(
          one.right <= other.left + 1 ||
            other.right <= one.left + 1 ||
            one.bottom <= other.top + 1 ||
            other.bottom <= one.top + 1,
          `${width}`,
        ).toBe(true);
    expect(await axe(page), `${width}`).toEqual([]);
  }
  await context.close();
});
