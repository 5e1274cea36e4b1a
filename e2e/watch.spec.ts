import { type ChildProcess, spawn } from "node:child_process";
import { mkdirSync, writeFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import { OUT } from "./prepare";

const FOLDER = `${OUT}/watched`;
const SHEET = `${FOLDER}/watched.still.yaml`;
const PORT = 4193;

const sheetOf = (mark: string) => `still: 1
report: Watched
tables: {t: {read: t.csv}}
controls: {k: {pick: k, from: t, as: checkboxes}}
charts: {sums: {title: Sums, from: t, draw: ${mark}, x: k, y: sum(v)}}
`;

let child: ChildProcess | undefined;
let printed = "";

test.beforeAll(async () => {
  mkdirSync(FOLDER, { recursive: true });
  writeFileSync(SHEET, sheetOf("bars"));
  writeFileSync(`${FOLDER}/t.csv`, "k,v\na,1\nb,2\n");
  child = spawn("./still", ["watch", SHEET, "--port", String(PORT)], { detached: true });
  child.stderr?.on("data", (text) => {
    printed += text;
  });
  await expect.poll(() => printed).toContain(`http://localhost:${PORT}/ follows`);
});

test.afterAll(() => {
  // The terminal's process has one of its own below it.
  if (child?.pid) process.kill(-child.pid);
});

test("watch builds at every save of sheet or table, keeps what the reader picked, and says what is wrong", async ({
  page,
}) => {
  await page.goto(`http://localhost:${PORT}/`);
  const dashboard = page.frameLocator("iframe");
  const words = dashboard.locator(".sentence");
  await expect(words).toContainText("2 of 2 t");
  await dashboard.getByRole("checkbox", { name: /^b/ }).press("Space");
  await expect(words).toContainText("1 of 2 t where k is b");
  // A table is saved: its rows are there, and the pick still is.
  writeFileSync(`${FOLDER}/t.csv`, "k,v\na,1\nb,2\nb,3\n");
  await expect(words).toContainText("2 of 3 t where k is b");
  await expect(page.getByRole("status")).toBeEmpty();
  // A mistake is saved: it is told in the page and in the terminal, and the last good dashboard stays.
  writeFileSync(SHEET, sheetOf("barz"));
  await expect(page.getByRole("status")).toContainText(
    /watched\.still\.yaml:5:\d+ error wrong-value: "barz" is not one/,
  );
  expect(printed).toContain('"barz" is not one of');
  await expect.poll(() => printed).toContain("not built");
  await expect(words).toContainText("2 of 3 t where k is b");
  writeFileSync(SHEET, sheetOf("points"));
  await expect(page.getByRole("status")).toBeEmpty();
  await expect(words).toContainText("2 of 3 t where k is b");
});
