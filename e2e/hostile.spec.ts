import { existsSync, mkdirSync, rmSync, writeFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import { HOSTILE_REPORTS, ORDINARY_REPORT } from "../src/core/testing/hostile";
import { ADDRESS, goTo, keptText, openDesk, parts, rewrite } from "./desk";
import { OUT, still } from "./prepare";

/** Words of the engine, which say nothing to anybody who does not know it. */
const ENGINE = /call stack|Cannot read|went wrong inside|EISDIR|heap|Invalid (?:array|string)/;

test("the terminal answers reports that ask for too much, and then builds an ordinary one", () => {
  test.setTimeout(240_000);
  const reports = [...HOSTILE_REPORTS, { name: "ordinary", ...ORDINARY_REPORT, codes: [] }].map((report, at) => {
    const folder = `${OUT}/asking/${at}`;
    rmSync(folder, { recursive: true, force: true });
    mkdirSync(folder, { recursive: true });
    for (const [path, content] of Object.entries(report.files))
      if (path.length < 200) writeFileSync(`${folder}/${path}`, content);
    writeFileSync(`${folder}/r.still.yaml`, report.sheet);
    return { ...report, folder };
  });
  const { status, stderr } = still("build", ...reports.map(({ folder }) => `${folder}/r.still.yaml`));
  expect(status).toBe(1);
  expect(stderr).not.toMatch(ENGINE);
  for (const { name, folder, codes } of reports) {
    const about = stderr.split("\n").filter((line) => line.includes(`${folder}/`));
    if (codes.length) expect(about.join("\n"), name).toMatch(new RegExp(`error (?:${codes.join("|")}):`));
    expect(existsSync(`${folder}/r.html`), name).toBe(codes.length === 0);
  }
});

test("the server answers them too, and then builds an ordinary one", async () => {
  test.setTimeout(240_000);
  for (const { name, sheet, files, codes } of [
    ...HOSTILE_REPORTS,
    { name: "ordinary", ...ORDINARY_REPORT, codes: [] },
  ]) {
    const form = new FormData();
    form.append("sheet", sheet);
    for (const [path, content] of Object.entries(files)) form.append("file", new File([content as BlobPart], path));
    const answer = await fetch(`${ADDRESS}api/build`, { method: "POST", body: form });
    expect(answer.status, name).toBe(codes.length ? 422 : 200);
    const text = await answer.text();
    if (codes.length) expect(text, name).toMatch(new RegExp(codes.join("|")));
    if (codes.length) expect(text, name).not.toMatch(ENGINE);
  }
});

test("a client that goes away gives its turn back", async () => {
  const sheet = `still: 1\nreport: R\ntables:\n  t: {make: {rows: 3000000, seed: 1}, steps: [{add: {${Array.from({ length: 20 }, (_, at) => `x${at}: "normal(0, 1)"`).join(", ")}}}]}\ncharts: {c: {from: t, draw: figure, value: sum(x1)}}\n`;
  const load = async () =>
    ((await (await fetch(`${ADDRESS}api/health`)).json()) as { builds: { running: number } }).builds;
  const form = new FormData();
  form.append("sheet", sheet);
  const away = new AbortController();
  const asked = fetch(`${ADDRESS}api/build`, { method: "POST", body: form, signal: away.signal }).catch(
    () => undefined,
  );
  await expect.poll(async () => (await load()).running).toBeGreaterThan(0);
  away.abort();
  await asked;
  await expect.poll(async () => (await load()).running).toBe(0);
});

test("the workbench says what is too much, goes on, and keeps what was written", async ({ page }) => {
  test.setTimeout(240_000);
  const desk = await openDesk(page);
  for (const { name, sheet, files, codes } of HOSTILE_REPORTS) {
    if (Object.keys(files).length || sheet.length > 60_000) continue;
    await rewrite(desk, sheet);
    if (codes.length)
      await expect(desk.findings, name).toContainText(
        /at most|brackets are open|twice|times|no file|whole number|whole sheet/,
        { timeout: 60_000 },
      );
    await expect(page.locator("body"), name).not.toContainText(ENGINE);
  }
  await rewrite(
    desk,
    'still: 1\nreport: Ordinary\ntables: {t: {rows: "berth,tonnes\\nNorth,1\\nSouth,2\\n"}}\ncharts: {c: {from: t, draw: bars, x: berth, y: sum(tonnes)}}\n',
  );
  await expect(desk.proof.getByRole("heading", { name: "Ordinary" })).toBeVisible();
  await expect.poll(() => keptText(page)).toContain("report: Ordinary");
});

test("a report that brought the page down opens without compiling, and offers all that is in it", async ({
  page,
  context,
}) => {
  await openDesk(page);
  await expect.poll(() => keptText(page)).toContain("Quay calls");
  const id = new URL(page.url()).searchParams.get("report");
  await page.close();
  // A page that is brought down in the middle of a compile leaves its mark behind: nobody takes it away.
  const other = await context.newPage();
  await other.goto(`${ADDRESS}api/health`);
  await other.evaluate((report) => localStorage.setItem(`still-harbor compiling ${report}`, "1"), id);
  await other.goto(`${ADDRESS}?report=${id}`);
  const again = parts(other);
  const held = other.getByRole("alert").filter({ hasText: "opened without compiling" });
  await expect(held).toBeVisible();
  await expect(again.sheet).toContainText("report: Quay calls");
  await expect(held.getByRole("table", { name: "Files of the report" })).toContainText("calls.csv");
  const download = other.waitForEvent("download");
  await held.getByRole("button", { name: "save calls.csv" }).click();
  expect((await download).suggestedFilename()).toBe("calls.csv");
  await expect(held.getByRole("button", { name: "earlier versions" })).toBeVisible();
  // It stays so over a reload, until the author says otherwise.
  await other.reload();
  await expect(held).toBeVisible();
  await held.getByRole("button", { name: "compile it now" }).click();
  await expect(held).toBeHidden();
  await goTo(other, "Pages");
  await expect(again.proof.getByRole("heading", { name: "Quay calls" })).toBeVisible();
  await other.reload();
  await expect(again.proof.getByRole("heading", { name: "Quay calls" })).toBeVisible();
});
