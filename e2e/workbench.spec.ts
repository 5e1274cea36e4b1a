import { readFileSync } from "node:fs";
import AxeSource from "axe-core";
import { expect, type Page, test } from "@playwright/test";
import { OUT } from "./prepare";

const ADDRESS = "http://127.0.0.1:3411/";

async function open(page: Page) {
  await page.goto(ADDRESS);
  const editor = page.getByRole("textbox", { name: "Sheet text" });
  await expect(editor).toHaveValue(/report: Quay calls/);
  const proof = page.frameLocator("iframe[title='The dashboard as it stands']");
  await expect(proof.getByRole("heading", { name: "Quay calls" })).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole("status")).toContainText("nothing to mend");
  return { editor, proof };
}

test("opens on the demo report with its proof live beside it", async ({ page }) => {
  const { editor, proof } = await open(page);
  await expect(page.getByRole("status")).toContainText("24,616 rows in");
  await expect(page.getByRole("status")).toContainText("24,178 kept");
  await editor.fill((await editor.inputValue()).replace("title: Cargo by month", "title: Cargo each month"));
  await expect(proof.getByRole("heading", { name: "Cargo each month" })).toBeVisible();
});

test("a misspelt column is named with its place and mended by one press", async ({ page }) => {
  const { editor, proof } = await open(page);
  const text = await editor.inputValue();
  await editor.fill(text.replace("x: bin(waited, $bins)", "x: bin(wated, $bins)"));
  const findings = page.getByRole("list", { name: "Findings" });
  await expect(findings).toContainText('calls has no column "wated"; did you mean waited?');
  await expect(page.getByRole("button", { name: "Download dashboard" })).toBeDisabled();
  // The rest is still drawn, the broken piece shows its finding in its own place.
  await expect(proof.locator("section[data-piece=waiting]")).toContainText('no column "wated"');
  await expect(proof.getByRole("heading", { name: "Cargo by month" })).toBeVisible();
  await findings.getByRole("button", { name: "write waited" }).click();
  await expect(editor).toHaveValue(text);
  await expect(page.getByRole("button", { name: "Download dashboard" })).toBeEnabled();
  await expect(proof.getByRole("heading", { name: "Hours waited for a berth" })).toBeVisible();
});

test("the reader's brush stays while the author types on", async ({ page }) => {
  const { editor, proof } = await open(page);
  await proof.getByRole("checkbox", { name: /grain/ }).uncheck();
  const sentence = proof.locator(".sentence");
  await expect(sentence).toContainText("where cargo is");
  const before = await sentence.textContent();
  await editor.fill((await editor.inputValue()).replace("report: Quay calls", "report: Calls at the quay"));
  await expect(proof.getByRole("heading", { name: "Calls at the quay" })).toBeVisible();
  await expect(sentence).toHaveText(before ?? "");
});

test("the file downloaded in the browser is the one that the terminal writes, byte for byte", async ({ page }) => {
  await open(page);
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "Download dashboard" }).click();
  const file = await (await download).path();
  expect(readFileSync(file).equals(readFileSync(`${OUT}/quay.html`))).toBe(true);
});

test("the proof has no origin: it reaches neither the workbench nor any network", async ({ page }) => {
  await open(page);
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

test("the shell of the proof has a policy of its own", async ({ request }) => {
  const answer = await request.get(`${ADDRESS}proof`);
  expect(answer.headers()["content-security-policy"]).toContain("default-src 'none'");
  expect(answer.headers()["content-security-policy"]).toContain("frame-ancestors 'self'");
  expect(await answer.text()).not.toContain("demo");
});

test("a brush made in the proof stays through edits of the sheet", async ({ page }) => {
  const { editor, proof } = await open(page);
  const plot = proof.locator("section[data-piece=waiting]").getByRole("application");
  const box = await plot.boundingBox();
  if (!box) throw new Error("no chart");
  await page.mouse.move(box.x + 60, box.y + 100);
  await page.mouse.down();
  for (let step = 1; step <= 10; step++) await page.mouse.move(box.x + 60 + step * 6, box.y + 100);
  await page.mouse.up();
  const sentence = proof.locator(".sentence");
  await expect(sentence).toContainText("where waited");
  const before = await sentence.textContent();
  await editor.fill((await editor.inputValue()).replace("title: Hours waited for a berth", "title: Waiting"));
  await expect(proof.getByRole("heading", { name: "Waiting" })).toBeVisible();
  await expect(sentence).toHaveText(before ?? "");
});

test("every mistake leads to its place in the text", async ({ page }) => {
  const { editor } = await open(page);
  await editor.fill((await editor.inputValue()).replace("draw: figure", "draw: figur"));
  const findings = page.getByRole("list", { name: "Findings" });
  await expect(findings).toContainText('"figur" is not one of');
  await findings.getByRole("button", { name: /go to line/ }).first().click();
  const marked = await editor.evaluate((area: HTMLTextAreaElement) => area.value.slice(area.selectionStart, area.selectionEnd));
  expect(marked).toBe("figur");
  await findings.getByRole("button", { name: "write figure" }).click();
  await expect(page.getByRole("status")).toContainText("nothing to mend");
});

test("text that is no sheet says so and loses nothing", async ({ page }) => {
  const { editor, proof } = await open(page);
  await editor.fill("just words");
  await expect(page.getByRole("list", { name: "Findings" })).toContainText("a sheet is a map that begins with still: 1");
  await expect(proof.getByRole("heading", { name: "Quay calls" })).toBeVisible();
  await expect(editor).toHaveValue("just words");
});

test("axe finds nothing on the start page", async ({ page }) => {
  await open(page);
  await page.evaluate(AxeSource.source);
  const found = await page.evaluate(async () => {
    const { axe } = window as unknown as { axe: { run: (context: object) => Promise<{ violations: { id: string; nodes: { html: string }[] }[] }> } };
    return (await axe.run({ exclude: ["iframe"] })).violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 120)).join(" | ")}`);
  });
  expect(found).toEqual([]);
});
