import { readdirSync, readFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import { ADDRESS } from "./desk";
import { OUT } from "./prepare";
import { kindsIn, sampled } from "./sample";

const FOLDER = "examples/quay-calls";
const SHEET = readFileSync(`${FOLDER}/quay-calls.still.yaml`, "utf8");

/** Posts a sheet and files, as a script does. */
async function post(sheet: string, files: Record<string, Uint8Array | string>) {
  const form = new FormData();
  form.append("sheet", sheet);
  for (const [name, content] of Object.entries(files)) form.append("file", new File([content as BlobPart], name));
  return fetch(`${ADDRESS}api/build`, { method: "POST", body: form });
}

test("a build over HTTP gives the bytes that the terminal writes", async () => {
  const answer = await post(SHEET, { "calls.csv": readFileSync(`${FOLDER}/calls.csv`) });
  expect(answer.status).toBe(200);
  expect(answer.headers.get("content-security-policy")).toBe("sandbox");
  expect(Buffer.from(await answer.arrayBuffer()).equals(readFileSync(`${OUT}/quay.html`))).toBe(true);
});

const isSheet = (name: string) => name.endsWith(".still.yaml");
const filesOf = (folder: string) => readdirSync(`examples/${folder}`).filter((name) => !isSheet(name));

test("examples have the same bytes over HTTP as from the terminal", async () => {
  const folders = readdirSync("examples", { withFileTypes: true })
    .filter((folder) => folder.isDirectory() && folder.name !== "make" && folder.name !== "quay-calls")
    .map(({ name }) => name);
  let compared = 0;
  for (const folder of sampled(folders, kindsIn)) {
    const files = Object.fromEntries(filesOf(folder).map((name) => [name, readFileSync(`examples/${folder}/${name}`)]));
    // Of a folder of many sheets one is enough: the browser's bytes are compared for all of them (bytes.spec.ts).
    for (const sheet of readdirSync(`examples/${folder}`).filter(isSheet).slice(0, 1)) {
      const text = readFileSync(`examples/${folder}/${sheet}`, "utf8");
      // Of several editions the terminal writes several files.
      if (/^editions:/m.test(text)) continue;
      const answer = await post(text, files);
      const written = readFileSync(`${OUT}/${sheet.replace(".still.yaml", ".html")}`);
      expect([sheet, answer.status]).toEqual([sheet, 200]);
      expect([sheet, Buffer.from(await answer.arrayBuffer()).equals(written)]).toEqual([sheet, true]);
      compared += 1;
    }
  }
  expect(compared).toBeGreaterThan(4);
});

test("what is wrong with a sheet comes back as findings with their places", async () => {
  const answer = await post(SHEET.replace("bin(waited", "bin(wated"), {
    "calls.csv": readFileSync(`${FOLDER}/calls.csv`),
  });
  expect(answer.status).toBe(422);
  const { findings } = (await answer.json()) as {
    findings: { severity: string; line: number; column: number; message: string; fix?: string }[];
  };
  expect(findings.filter(({ severity }) => severity === "error")).toEqual([
    expect.objectContaining({ file: "sheet", line: 35, column: 12, code: "unknown-column", fix: "write waited" }),
  ]);
});

test("nothing is read but what was sent: no path and no address of a sheet is followed", async () => {
  for (const path of [
    "package.json",
    "../package.json",
    "/etc/hostname",
    "http://127.0.0.1:3411/demo/calls.csv",
    "calls.csv",
  ]) {
    const answer = await post(
      `still: 1\nreport: R\ntables: {t: {read: "${path}"}}\ncharts: {c: {from: t, draw: table}}\n`,
      {},
    );
    expect(answer.status, path).toBe(422);
    expect((await answer.text()).includes("still-harbor"), path).toBe(false);
  }
});

test("health says that it answers, and what it takes", async () => {
  const answer = await fetch(`${ADDRESS}api/health`);
  expect(answer.status).toBe(200);
  expect(await answer.json()).toMatchObject({ ok: true, limits: { seconds: 60, atOnce: 2 } });
  expect((await fetch(`${ADDRESS}api/build`)).status).toBe(405);
});
