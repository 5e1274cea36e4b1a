import { beforeEach, describe, expect, it, vi } from "vitest";
import { Builder, type Job } from "./builder";

/** Compilers that were started, each to be answered by hand. */
interface Started {
  died: () => void;
  given: string[];
  asked: { text: string; answer: () => void; fail: (fault: Error) => void }[];
  stopped: boolean;
}
const started: Started[] = [];

vi.mock("../worker/client", () => ({
  startCompiler: (_: unknown, died: () => void) => {
    const own: Started = { died, given: [], asked: [], stopped: false };
    started.push(own);
    return {
      stop: () => {
        own.stopped = true;
      },
      call: {
        open: async () => undefined,
        forget: async () => undefined,
        put: async (hash: string) => void own.given.push(hash),
        build: (text: string) =>
          new Promise((answer, fail) => own.asked.push({ text, answer: () => answer({ report: text }), fail })),
      },
    };
  },
}));

const job = (text: string, files: [string, string][] = []): Job => ({ text, sheetName: "s", files: new Map(files) });

describe("compiling what is written", () => {
  let done: string[];
  let problems: (string | undefined)[];
  let working: boolean;
  let builder: Builder;
  const asked = (compiler = started.length - 1) => started[compiler]?.asked ?? [];

  beforeEach(() => {
    started.length = 0;
    done = [];
    problems = [];
    working = false;
    builder = new Builder(
      async () => ({ core: "", parts: {}, needs: {} }),
      async (hash) => (hash === "lost" ? undefined : new Uint8Array(1)),
      {
        done: (_, { text }) => done.push(text),
        problem: (words) => problems.push(words),
        working: (progress) => {
          working = progress !== undefined;
        },
      },
    );
  });

  it("goes one at a time, and of those that wait only to the last", async () => {
    builder.ask(job("1"));
    await expect.poll(() => asked().length).toBe(1);
    builder.ask(job("2"));
    builder.ask(job("3"));
    expect(working).toBe(true);
    asked()[0]?.answer();
    await expect.poll(() => asked().length).toBe(2);
    asked()[1]?.answer();
    await expect.poll(() => working).toBe(false);
    expect(asked().map(({ text }) => text)).toEqual(["1", "3"]);
    // What is outdated when it comes is not shown.
    expect(done).toEqual(["3"]);
  });

  it("hands each content over once", async () => {
    builder.ask(
      job("1", [
        ["a.csv", "h1"],
        ["b.csv", "lost"],
      ]),
    );
    await expect.poll(() => asked().length).toBe(1);
    asked()[0]?.answer();
    await expect.poll(() => working).toBe(false);
    builder.ask(
      job("2", [
        ["a.csv", "h1"],
        ["c.csv", "h2"],
      ]),
    );
    await expect.poll(() => asked().length).toBe(2);
    expect(started[0]?.given).toEqual(["h1", "h2"]);
  });

  it("starts a compiler that died again, with all it had, and says so", async () => {
    builder.ask(job("1", [["a.csv", "h1"]]));
    await expect.poll(() => asked().length).toBe(1);
    started[0]?.died();
    await expect.poll(() => started.length).toBe(2);
    await expect.poll(() => asked().length).toBe(1);
    expect(started[1]?.given).toEqual(["h1"]);
    asked()[0]?.answer();
    await expect.poll(() => done).toEqual(["1"]);
    expect(problems[0]).toContain("started again");
  });

  it("gives up on one that dies again and again, until something changes", async () => {
    builder.ask(job("deadly"));
    for (let death = 0; death < 4; death++) {
      await expect.poll(() => asked(death).length).toBe(1);
      started[death]?.died();
    }
    expect(started.length).toBe(4);
    expect(problems.at(-1)).toContain("died several times");
    expect(working).toBe(false);
  });

  it("can be stopped in the middle, and compiles again at the next change", async () => {
    builder.ask(job("1"));
    await expect.poll(() => asked().length).toBe(1);
    builder.stop();
    expect([started[0]?.stopped, working]).toEqual([true, false]);
    expect(problems.at(-1)).toContain("Stopped.");
    builder.ask(job("2"));
    await expect.poll(() => started.length).toBe(2);
    await expect.poll(() => asked().length).toBe(1);
    asked()[0]?.answer();
    await expect.poll(() => done).toEqual(["2"]);
  });

  it("says what went wrong inside, and goes on with what was asked since", async () => {
    builder.ask(job("1"));
    await expect.poll(() => asked().length).toBe(1);
    asked()[0]?.fail(new Error("out of luck"));
    await expect
      .poll(() => problems)
      .toEqual(["The compiler stopped: it met a fault of ours. The proof is the last one that was finished."]);
    builder.ask(job("2"));
    await expect.poll(() => asked().length).toBe(2);
    asked()[1]?.answer();
    await expect.poll(() => done).toEqual(["2"]);
  });

  it("says that the viewer could not be fetched, and starts anew at the next change", async () => {
    let lost = true;
    const words: (string | undefined)[] = [];
    const own = new Builder(
      async () => {
        if (lost) throw new Error("/demo/viewer.json could not be read (503)");
        return { core: "", parts: {}, needs: {} };
      },
      async () => undefined,
      { done: () => undefined, problem: (problem) => words.push(problem), working: () => undefined },
    );
    own.ask(job("1"));
    await expect.poll(() => words).toEqual([expect.stringContaining("The compiler stopped")]);
    expect(started[0]?.stopped).toBe(true);
    lost = false;
    own.ask(job("2"));
    await expect.poll(() => asked(1).map(({ text }) => text)).toEqual(["2"]);
  });

  it("can be stopped before it has started", async () => {
    const own = new Builder(
      () => (started.length === 1 ? new Promise(() => undefined) : Promise.resolve({ core: "", parts: {}, needs: {} })),
      async () => undefined,
      { done: () => undefined, problem: () => undefined, working: () => undefined },
    );
    own.ask(job("1"));
    await expect.poll(() => started.length).toBe(1);
    own.stop();
    own.ask(job("2"));
    await expect.poll(() => asked(1).map(({ text }) => text)).toEqual(["2"]);
  });
});
