import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex } from "@noble/hashes/utils.js";
import { expect, test } from "vitest";
import { prepareFiles } from "../compile/prepare";
import { buildDashboard } from "../dashboard/build";

/**
 * Hashes of the examples' files without the viewer's script. `UPDATE_EXAMPLES=1` writes them anew, where a
 * change is meant.
 */
const KEPT = "examples/hashes.json";

async function hashOf(folder: string, sheet: string): Promise<string> {
  const names = readdirSync(`examples/${folder}`);
  // One array per file: what `prepareFiles` decodes is kept by the array itself.
  const files = new Map(names.map((name) => [name, new Uint8Array(readFileSync(`examples/${folder}/${name}`))]));
  const input = {
    text: readFileSync(`examples/${folder}/${sheet}`, "utf8"),
    fileName: sheet,
    readFile: (name: string) => files.get(name),
    listFiles: () => names,
  };
  await prepareFiles(input);
  const { html } = buildDashboard(input, { viewer: () => "0" });
  if (html === undefined) throw new Error(`${sheet} gives no file.`);
  return bytesToHex(sha256(new TextEncoder().encode(html)));
}

test("every example gives the file that it gave before, byte for byte", { timeout: 240_000 }, async () => {
  const found: Record<string, string> = {};
  for (const folder of readdirSync("examples", { withFileTypes: true })) {
    if (!folder.isDirectory()) continue;
    for (const sheet of readdirSync(`examples/${folder.name}`).filter((name) => name.endsWith(".still.yaml")))
      found[sheet] = await hashOf(folder.name, sheet);
  }
  if (process.env.UPDATE_EXAMPLES === "1") writeFileSync(KEPT, `${JSON.stringify(found, null, 2)}\n`);
  expect(Object.keys(found).length).toBeGreaterThan(3);
  expect(found).toEqual(JSON.parse(readFileSync(KEPT, "utf8")));
});
