import { readFileSync, readdirSync, writeFileSync } from "node:fs";
import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex } from "@noble/hashes/utils.js";
import { expect, test } from "vitest";
import { buildDashboard } from "../dashboard/build";
import { prepareFiles } from "../plan/prepare";

/** Hashes of the examples' files without the viewer's script. `UPDATE_EXAMPLES=1` writes them anew, where a change is meant. */
const KEPT = "examples/hashes.json";

async function hashOf(folder: string, sheet: string): Promise<string> {
  const path = (name: string) => `examples/${folder}/${name}`;
  const files = readdirSync(path(""));
  const input = { text: readFileSync(path(sheet), "utf8"), fileName: sheet, readFile: (name: string) => (files.includes(name) ? new Uint8Array(readFileSync(path(name))) : undefined), listFiles: () => files };
  await prepareFiles(input);
  return bytesToHex(sha256(new TextEncoder().encode(buildDashboard(input, { viewer: "0" }).html ?? "")));
}

test("every example gives the file that it gave before, byte for byte", async () => {
  const found: Record<string, string> = {};
  for (const folder of readdirSync("examples", { withFileTypes: true })) {
    const sheet = folder.isDirectory() ? readdirSync(`examples/${folder.name}`).find((name) => name.endsWith(".still.yaml")) : undefined;
    if (sheet) found[sheet] = await hashOf(folder.name, sheet);
  }
  if (process.env.UPDATE_EXAMPLES === "1") writeFileSync(KEPT, `${JSON.stringify(found, null, 2)}\n`);
  expect(Object.keys(found).length).toBeGreaterThan(3);
  expect(found).toEqual(JSON.parse(readFileSync(KEPT, "utf8")));
});
