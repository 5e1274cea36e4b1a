import "fake-indexeddb/auto";
import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex } from "@noble/hashes/utils.js";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { Database, type ProjectRow } from "./database";
import { hashOf, Projects, refusal } from "./projects";

const row = (more: Partial<ProjectRow> = {}): ProjectRow => ({
  id: "a",
  sheetName: "a.still.yaml",
  text: "still: 1",
  files: [],
  changed: 1,
  revision: 0,
  ...more,
});
const bytes = (text: string) => new TextEncoder().encode(text);

describe("reports in the browser's storage", () => {
  let database: Database;
  let projects: Projects;
  beforeEach(() => {
    database = new Database(`test ${Math.random()}`);
    projects = new Projects(database);
  });
  afterEach(() => database.delete());

  it("keeps text and files, and gives them back byte for byte", async () => {
    const table = bytes("a,b\n1,\u0000\u00ff\n");
    const hash = await hashOf(table);
    expect(hash).toBe(bytesToHex(sha256(table)));
    expect(await projects.keep(hash, table)).toBeUndefined();
    expect(await projects.save(row({ files: [["t.csv", hash]] }))).toEqual({ type: "saved", revision: 1 });
    expect(await projects.load("a")).toMatchObject({ text: "still: 1", revision: 1 });
    const whole = await projects.whole((await projects.load("a")) as ProjectRow, new Map());
    expect([...(whole.files.get("t.csv") as Uint8Array)]).toEqual([...table]);
  });

  it("does not overwrite what another tab has saved since", async () => {
    await projects.save(row());
    expect(await projects.save(row({ text: "late", revision: 0 }))).toEqual({ type: "elsewhere" });
    expect((await projects.load("a"))?.text).toBe("still: 1");
    expect(await projects.save(row({ text: "next", revision: 1 }))).toEqual({ type: "saved", revision: 2 });
  });

  it("keeps how a report looks as long as the report", async () => {
    const look = { project: "a", rows: 3, bytes: 900, pictures: { light: "<svg/>", dark: "<svg/>" } };
    // One that is not there, or not any more, has no look.
    await projects.keepLook(look);
    expect(await projects.looks()).toEqual(new Map());
    await projects.save(row());
    await projects.keepLook(look);
    await projects.keepLook({ ...look, rows: 4 });
    expect(await projects.looks()).toEqual(new Map([["a", { ...look, rows: 4 }]]));
    await projects.remove("a");
    expect(await projects.looks()).toEqual(new Map());
  });

  it("tells followers of every save", async () => {
    const seen: string[] = [];
    await projects.save(row());
    const stop = projects.follow("a", ({ text }) => seen.push(text));
    await expect.poll(() => seen).toEqual(["still: 1"]);
    await projects.save(row({ text: "second", revision: 1 }));
    await expect.poll(() => seen.at(-1)).toBe("second");
    stop();
  });

  it("keeps a state once, the newest first, and not without end", async () => {
    for (let made = 1; made <= 70; made++)
      await projects.addVersion({ project: "a", made, note: "kept", text: `text ${Math.ceil(made / 2)}`, files: [] });
    const versions = await projects.versions("a");
    expect(versions[0]?.text).toBe("text 35");
    expect(versions.map(({ text }) => text)).toEqual([...new Set(versions.map(({ text }) => text))]);
    for (let made = 71; made <= 140; made++)
      await projects.addVersion({ project: "a", made, note: "kept", text: `text ${made}`, files: [] });
    expect((await projects.versions("a")).length).toBe(60);
  });

  it("takes away the bytes that no other report and no version holds", async () => {
    for (const name of ["one", "two"]) await projects.keep(name, bytes(name));
    await projects.save(
      row({
        id: "a",
        files: [
          ["x.csv", "one"],
          ["y.csv", "two"],
        ],
      }),
    );
    await projects.save(row({ id: "b", files: [["x.csv", "one"]] }));
    await projects.addVersion({ project: "a", made: 1, note: "", text: "", files: [["y.csv", "two"]] });
    await projects.remove("a");
    expect((await projects.list()).map(({ id }) => id)).toEqual(["b"]);
    expect(await projects.bytes("one")).toBeDefined();
    expect(await projects.bytes("two")).toBeUndefined();
    expect(await projects.versions("a")).toEqual([]);
  });

  it("says in words when there is no room, instead of throwing", async () => {
    const full = new DOMException("no room", "QuotaExceededError");
    expect(refusal({ name: "AbortError", inner: full })).toBe("the browser's storage is full");
    database.projects.hook("creating", () => {
      throw full;
    });
    expect(await projects.save(row())).toEqual({ type: "refused", reason: "the browser's storage is full" });
  });
});
