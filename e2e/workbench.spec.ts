import { readFileSync } from "node:fs";
import { expect, test as fresh } from "@playwright/test";
import {
  ADDRESS,
  atRest,
  boxOf,
  brush,
  complaints,
  exchange,
  find,
  kept,
  keptText,
  openDesk,
  rewrite,
  test,
} from "./desk";
import { OUT } from "./prepare";

fresh("opens on the demo report with its proof live beside it", async ({ page }) => {
  const said = complaints(page);
  const desk = await openDesk(page, "all calls");
  await expect(desk.tally).toContainText("24,616 rows in");
  await expect(desk.tally).toContainText("24,178 kept");
  await exchange(desk, "title: Cargo by month", "title: Cargo each month");
  await expect(desk.proof.getByRole("heading", { name: "Cargo each month" })).toBeVisible();
  expect(said).toEqual([]);
});

test("a misspelt column is named with its place and mended by one press", async ({ page }) => {
  const desk = await openDesk(page);
  const before = (await kept(page))?.text ?? "";
  await exchange(desk, "x: bin(waited, $bins)", "x: bin(wated, $bins)");
  await expect(desk.findings).toContainText('calls has no column "wated"; did you mean waited?');
  await expect(
    page.getByRole("navigation", { name: "Stations" }).getByRole("button", { name: /Charts 5 1 to mend/ }),
  ).toBeVisible();
  // The rest is still drawn, the broken piece shows its finding in its own place.
  await expect(desk.proof.locator("section[data-piece=waiting]")).toContainText('no column "wated"');
  await expect(desk.proof.getByRole("heading", { name: "Cargo by month" })).toBeVisible();
  await page.keyboard.press("Alt+5");
  await expect(page.getByRole("button", { name: "Write the file" })).toBeDisabled();
  await desk.findings.getByRole("button", { name: "write waited" }).click();
  await expect(page.getByRole("button", { name: "Write the file" })).toBeEnabled();
  await expect.poll(() => keptText(page)).toBe(before);
  await page.keyboard.press("Alt+4");
  await expect(desk.proof.getByRole("heading", { name: "Hours waited for a berth" })).toBeVisible();
});

test("a mistake is marked in the text, with its way out beside it", async ({ page }) => {
  const desk = await openDesk(page);
  await exchange(desk, "draw: figure", "draw: figur");
  const mark = page.locator(".cm-lintRange-error");
  await expect(mark).toHaveText("figur");
  await mark.hover();
  await page.getByRole("button", { name: "write figure" }).first().click();
  await expect(desk.tally).toContainText("nothing to mend");
  await expect.poll(() => keptText(page)).toContain("draw: figure\n");
});

test("every finding leads to its place, by press and by key", async ({ page }) => {
  const desk = await openDesk(page);
  await exchange(desk, "draw: figure", "draw: figur");
  await expect(desk.findings).toContainText('"figur" is not one of');
  await desk.findings
    .getByRole("button", { name: /go to line/ })
    .first()
    .click();
  await expect(desk.sheet).toBeFocused();
  expect(await page.evaluate(() => getSelection()?.toString())).toBe("figur");
  await page.keyboard.press("F8");
  await expect.poll(() => page.evaluate(() => getSelection()?.toString())).not.toBe("figur");
});

test("what is typed and not seen leaves the proof as it is, and what is seen makes it anew", async ({ page }) => {
  const desk = await openDesk(page);
  const proofs = () => page.evaluate(() => performance.getEntriesByName("still-harbor proof").length);
  /** Types a key, and says whether the page of the proof is the same one afterwards. */
  const staysAfter = async (key: string) => {
    const before = await proofs();
    const handle = await desk.proof.locator("section[data-piece=trend]").elementHandle();
    await page.keyboard.type(key);
    await expect.poll(proofs, { intervals: [20] }).toBeGreaterThan(before);
    return handle?.evaluate((section) => section.isConnected);
  };
  // At rest the file itself takes the proof's place; a key that falls into that moment is typed once more.
  await find(desk, "report: Quay calls");
  await page.keyboard.press("End");
  await page.keyboard.type(" #");
  await expect(async () => expect(await staysAfter("x")).toBe(true)).toPass({ timeout: 60_000 });
  await find(desk, "Cargo by month");
  await page.keyboard.press("ArrowRight");
  await expect(async () => expect(await staysAfter("s")).toBe(false)).toPass({ timeout: 60_000 });
});

test("what the reader has picked in the proof stays while the author types on", async ({ page }) => {
  const desk = await openDesk(page);
  await desk.proof.getByRole("checkbox", { name: /grain/ }).check();
  await brush(page, desk.proof.locator("section[data-piece=waiting]").getByRole("application"), 60, 120);
  const sentence = desk.proof.locator(".sentence");
  await expect(sentence).toContainText("waited");
  await expect(sentence).toContainText("cargo is");
  const before = await sentence.textContent();
  await exchange(desk, "report: Quay calls", "report: Calls at the quay");
  await expect(desk.proof.getByRole("heading", { name: "Calls at the quay" })).toBeVisible();
  await expect(sentence).toHaveText(before ?? "");
});

test("a gesture in the proof is not cut off by the file that takes its place once all rest", async ({ page }) => {
  const desk = await openDesk(page);
  await atRest(desk);
  const box = await boxOf(desk.proof.locator("section[data-piece=waiting]").getByRole("application"));
  const proof = page.locator("iframe[data-shows=proof]");
  // On a busy machine the author may have rested for long when the hand comes down: then all is begun once more.
  let title = "Quay calls";
  await expect(async () => {
    await page.mouse.up();
    await find(desk, `report: ${title}`);
    await page.keyboard.press("End");
    await page.keyboard.type("s");
    title += "s";
    await expect(desk.proof.getByRole("heading", { name: title, exact: true })).toBeVisible();
    await page.mouse.move(box.x + 60, box.y + 60);
    await page.mouse.down();
    await page.mouse.move(box.x + 90, box.y + 60);
    // A file that was about to be shown when the hand came down has been by now.
    await page.waitForTimeout(1000);
    expect(await proof.count()).toBe(1);
  }).toPass();
  // Longer than the author has to rest for.
  await page.waitForTimeout(3500);
  await expect(proof).toBeVisible();
  await page.mouse.move(box.x + 120, box.y + 60);
  await page.mouse.up();
  const sentence = desk.proof.locator(".sentence");
  await expect(sentence).toContainText("waited");
  const brushed = await sentence.textContent();
  await atRest(desk);
  await expect(sentence).toHaveText(brushed ?? "");
});

test("the file written in the browser is the one that the terminal writes, byte for byte", async ({ page }) => {
  await openDesk(page, "all calls");
  const download = page.waitForEvent("download");
  await page.keyboard.press("Control+s");
  expect((await download).suggestedFilename()).toBe("quay-calls.html");
  const file = await (await download).path();
  expect(readFileSync(file).equals(readFileSync(`${OUT}/quay.html`))).toBe(true);
});

test("text that is no sheet says so, loses nothing, and leaves the last good picture", async ({ page }) => {
  const desk = await openDesk(page);
  await rewrite(desk, "just words");
  await expect(desk.findings).toContainText("a sheet is a map that begins with still: 1");
  await expect(desk.proof.getByRole("heading", { name: "Quay calls" })).toBeVisible();
  await expect(page.getByText("the last good picture; the sheet as it is cannot be drawn")).toBeVisible();
  await expect.poll(() => keptText(page)).toBe("just words");
  await desk.sheet.press("Control+z");
  await expect(desk.tally).toContainText("nothing to mend");
});

test("a piece pressed in the proof turns the sheet to its text, and the cursor marks the piece", async ({ page }) => {
  const desk = await openDesk(page);
  await desk.proof.getByRole("heading", { name: "Cargo by month" }).click();
  await expect(page.locator(".cm-line.band").first()).toHaveText("  trend:");
  await exchange(desk, "title: Cargo landed, by berth", "title: Cargo landed, by berth");
  await expect(desk.proof.locator("section[data-piece=by_berth].marked")).toHaveCount(1);
});

fresh("the proof has no origin: it reaches neither the workbench nor any network", async ({ page }) => {
  await openDesk(page);
  const frame = page.locator("iframe[title='The dashboard as it stands']");
  await expect(frame).toHaveAttribute("sandbox", "allow-scripts allow-downloads allow-modals");
  const inside = await (await frame.elementHandle())?.contentFrame();
  const reached = await inside?.evaluate(async () => {
    const tries: Record<string, string> = {};
    try {
      tries.parent = String(window.parent.document.title);
    } catch (problem) {
      tries.parent = (problem as Error).name;
    }
    try {
      tries.storage = String(window.localStorage.length);
    } catch (problem) {
      tries.storage = (problem as Error).name;
    }
    tries.network = await fetch("/demo/calls.csv").then(
      () => "answered",
      (problem: Error) => problem.name,
    );
    return tries;
  });
  expect(reached).toEqual({ parent: "SecurityError", storage: "SecurityError", network: "TypeError" });
});

fresh("workbench and shell have policies of their own", async ({ request }) => {
  const shell = await request.get(`${ADDRESS}proof`);
  expect(shell.headers()["content-security-policy"]).toContain("default-src 'none'");
  expect(shell.headers()["content-security-policy"]).toContain("frame-ancestors 'self'");
  expect(await shell.text()).not.toContain("demo");
  const policies = await Promise.all(
    [request.get(ADDRESS), request.get(ADDRESS)].map(
      async (answer) => (await answer).headers()["content-security-policy"] ?? "",
    ),
  );
  for (const policy of policies) {
    expect(policy).toMatch(/script-src 'nonce-[^']+' 'strict-dynamic'/);
    expect(policy).not.toContain("unsafe-eval");
    expect(/script-src[^;]*unsafe-inline/.test(policy)).toBe(false);
  }
  expect(policies[0]).not.toBe(policies[1]);
});

test("the guide stands in the workbench, in the order of the work, with a picture for each part", async ({ page }) => {
  await openDesk(page);
  await page.keyboard.press("?");
  await page.getByRole("button", { name: "the guide" }).click();
  const guide = page.getByRole("dialog", { name: "The guide" });
  const parts = guide.getByRole("navigation", { name: "Parts of the guide" }).getByRole("button");
  await expect(parts).toHaveText(["Begin", "Tables", "Charts", "Links", "Pages", "The file"]);
  for (let at = 0; at < 6; at++) {
    await parts.nth(at).click();
    const image = guide.locator("img").first();
    await expect.poll(() => image.evaluate((own: HTMLImageElement) => own.naturalWidth)).toBe(1280);
  }
  await expect(guide.getByText("put(table, rows)")).toBeVisible();
});
