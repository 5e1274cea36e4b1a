import "fake-indexeddb/auto";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Database, type ProjectRow } from "../store/database";
import { Projects } from "../store/projects";
import { Keeper, type Keeping } from "./keeper";

/** Locks as a browser has them: one holder a name, the others wait in line. */
class Locks {
  private readonly lines = new Map<string, (() => void)[]>();
  async request(name: string, second: unknown, third?: unknown): Promise<unknown> {
    const options = typeof second === "function" ? {} : (second as { ifAvailable?: boolean });
    const work = (typeof second === "function" ? second : third) as (lock: object | null) => unknown;
    const line = this.lines.get(name);
    if (line && options.ifAvailable) return work(null);
    if (line) await new Promise<void>((turn) => line.push(turn));
    else this.lines.set(name, []);
    try {
      return await work({});
    } finally {
      const next = this.lines.get(name)?.shift();
      if (next) next();
      else this.lines.delete(name);
    }
  }
}

const row = (text: string): ProjectRow => ({
  id: "a",
  sheetName: "a.still.yaml",
  text,
  files: [],
  changed: 1,
  revision: 0,
});

describe("keeping one report", () => {
  let database: Database;
  let projects: Projects;
  const tab = () => {
    const states: Keeping["type"][] = [];
    const seen: string[] = [];
    const keeper = new Keeper(projects, {
      keeping: ({ type }) => states.push(type),
      changed: ({ text }) => seen.push(text),
    });
    return { keeper, states, seen };
  };
  const kept = async () => (await projects.load("a"))?.text;

  beforeEach(() => {
    vi.stubGlobal("navigator", { locks: new Locks() });
    database = new Database(`keeper ${Math.random()}`);
    projects = new Projects(database);
  });
  afterEach(async () => {
    vi.unstubAllGlobals();
    await database.delete();
  });

  it("writes the newest state, and says when it is safe", async () => {
    const { keeper, states } = tab();
    await keeper.take(row("0"));
    for (const text of ["1", "2", "3"]) keeper.keep(row(text));
    await expect.poll(() => states.at(-1)).toBe("saved");
    expect(await kept()).toBe("3");
    expect((await projects.load("a"))?.revision).toBeLessThanOrEqual(3);
  });

  it("lets a second tab follow, and take over when the first is closed", async () => {
    const first = tab();
    await first.keeper.take(row("0"));
    first.keeper.keep(row("1"));
    await expect.poll(kept).toBe("1");
    const second = tab();
    await second.keeper.take((await projects.load("a")) as ProjectRow);
    expect(second.states).toEqual(["following"]);
    second.keeper.keep(row("of the second"));
    first.keeper.keep(row("2"));
    await expect.poll(() => second.seen.at(-1)).toBe("2");
    expect(await kept()).toBe("2");
    first.keeper.release();
    await expect.poll(() => second.states.at(-1)).toBe("saved");
    second.keeper.keep(row("now mine"));
    await expect.poll(kept).toBe("now mine");
    first.keeper.keep(row("too late"));
    await new Promise((resolve) => setTimeout(resolve, 30));
    expect(await kept()).toBe("now mine");
  });

  it("without locks, overwrites nothing that another tab has saved, and follows it", async () => {
    vi.stubGlobal("navigator", {});
    const first = tab();
    const second = tab();
    await first.keeper.take(row("0"));
    await second.keeper.take(row("0"));
    first.keeper.keep(row("first"));
    await expect.poll(kept).toBe("first");
    second.keeper.keep(row("second"));
    await expect.poll(() => second.states.at(-1)).toBe("following");
    expect(await kept()).toBe("first");
    await expect.poll(() => second.seen.at(-1)).toBe("first");
    second.keeper.release();
  });

  it("writes the last change before it lets a report go", async () => {
    const { keeper } = tab();
    await keeper.take(row("0"));
    keeper.keep(row("1"));
    keeper.keep(row("the last letter"));
    keeper.release();
    await expect.poll(kept).toBe("the last letter");
    const next = tab();
    await next.keeper.take((await projects.load("a")) as ProjectRow);
    await expect.poll(() => next.states.at(-1) ?? "writer").not.toBe("following");
  });

  it("says why when the browser refuses, and is well again when there is room", async () => {
    const { keeper, states } = tab();
    await keeper.take(row("0"));
    const save = vi
      .spyOn(projects, "save")
      .mockResolvedValue({ type: "refused", reason: "the browser's storage is full" });
    keeper.keep(row("1"));
    await expect.poll(() => states.at(-1)).toBe("refused");
    save.mockRestore();
    keeper.keep(row("2"));
    await expect.poll(() => states.at(-1)).toBe("saved");
    expect(await kept()).toBe("2");
  });
});
