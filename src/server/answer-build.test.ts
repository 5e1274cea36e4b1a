import { readFileSync } from "node:fs";
import { describe, expect, it, vi } from "vitest";
import { answerBuild } from "./answer-build";
import { LIMITS } from "./limits";
import { limitsReference } from "./limits-reference";
import { log } from "./log";
import { workbenchPolicy } from "./policy";
import { type RunResult, runBuild } from "./run-build";
import { Turns } from "./turns";

const SHEET = "still: 1\nreport: R\n";

function request(parts: [string, string | File][], headers: Record<string, string> = {}) {
  const form = new FormData();
  for (const [name, value] of parts) form.append(name, value);
  return new Request("http://h/api/build", { method: "POST", body: form, headers });
}
const file = (name: string, text = "a\n1\n") => new File([text], name);
const done: RunResult = { type: "done", answer: { html: "<!doctype html>", findings: [] } };
const answer = async (asked: Request, parts: Parameters<typeof answerBuild>[1] = {}) => {
  const response = await answerBuild(asked, { run: async () => done, ...parts });
  const text = await response.text();
  const body = response.headers.get("content-type")?.startsWith("application/json")
    ? (JSON.parse(text) as { error?: { code: string; message: string }; findings?: object[] })
    : undefined;
  return { status: response.status, code: body?.error?.code, body, text, headers: response.headers };
};

describe("a build asked for over HTTP", () => {
  it("gives the file, to be kept and never to run as a page of this site", async () => {
    const { status, text, headers } = await answer(
      request([
        ["sheet", SHEET],
        ["file", file("a/t.csv")],
      ]),
    );
    expect([status, text]).toEqual([200, "<!doctype html>"]);
    expect(headers.get("content-disposition")).toContain("attachment");
    expect(headers.get("content-security-policy")).toBe("sandbox");
    expect(headers.get("x-content-type-options")).toBe("nosniff");
  });

  it("hands exactly what was sent to the build", async () => {
    let seen: unknown;
    await answer(
      request([
        ["sheet", new File([SHEET], "x.still.yaml")],
        ["file", file("deep/t.csv", "b\n2\n")],
      ]),
      {
        run: async (job) => {
          seen = { text: job.text, files: job.files.map(([path, bytes]) => [path, new TextDecoder().decode(bytes)]) };
          return done;
        },
      },
    );
    expect(seen).toEqual({ text: SHEET, files: [["deep/t.csv", "b\n2\n"]] });
    await answer(request([["sheet", SHEET]]), {
      run: async (job) => {
        seen = job.text;
        return done;
      },
    });
    expect(seen).toBe(SHEET);
  });

  it("answers what is wrong with a sheet as findings", async () => {
    const findings = [{ file: "sheet", line: 1, column: 2, severity: "error", code: "x", message: "m" }];
    const { status, body } = await answer(request([["sheet", "x"]]), {
      run: async () => ({ type: "done", answer: { html: undefined, findings } }),
    });
    expect([status, body]).toEqual([422, { findings }]);
  });

  it.each([
    ["no sheet", [["file", file("t.csv")]], 400, "no-sheet"],
    [
      "two sheets",
      [
        ["sheet", "a"],
        ["sheet", "b"],
      ],
      400,
      "no-sheet",
    ],
    [
      "an unknown part",
      [
        ["sheet", SHEET],
        ["path", "/etc/passwd"],
      ],
      400,
      "unknown-part",
    ],
    [
      "a way up",
      [
        ["sheet", SHEET],
        ["file", file("../t.csv")],
      ],
      400,
      "bad-file-name",
    ],
    [
      "a root",
      [
        ["sheet", SHEET],
        ["file", file("/t.csv")],
      ],
      400,
      "bad-file-name",
    ],
    [
      "a drive",
      [
        ["sheet", SHEET],
        ["file", file("C:\\t.csv")],
      ],
      400,
      "bad-file-name",
    ],
    [
      "a file without a name",
      [
        ["sheet", SHEET],
        ["file", "text"],
      ],
      400,
      "no-file-name",
    ],
    [
      "a file twice",
      [
        ["sheet", SHEET],
        ["file", file("t.csv")],
        ["file", file("t.csv")],
      ],
      400,
      "doubled-file",
    ],
  ] as [string, [string, string | File][], number, string][])("refuses %s", async (_, parts, status, code) => {
    expect(await answer(request(parts))).toMatchObject({ status, code });
  });

  it("refuses what is no multipart request, damaged, or asked for by another site", async () => {
    expect(await answer(new Request("http://h/", { method: "POST", body: SHEET }))).toMatchObject({ status: 415 });
    expect(
      await answer(
        new Request("http://h/", {
          method: "POST",
          body: "x",
          headers: { "content-type": "multipart/form-data; boundary=b" },
        }),
      ),
    ).toMatchObject({ status: 400, code: "bad-multipart" });
    expect(await answer(request([["sheet", SHEET]], { "sec-fetch-site": "cross-site" }))).toMatchObject({
      status: 403,
    });
  });

  it("keeps to its limits of size, number and time", async () => {
    const limits = { ...LIMITS, bytes: 4000, sheetBytes: 100, files: 2 };
    expect(await answer(request([["sheet", "x".repeat(200)]]), { limits })).toMatchObject({
      status: 413,
      code: "sheet-too-large",
    });
    expect(
      await answer(
        request([
          ["sheet", SHEET],
          ["file", file("t.csv", "y".repeat(9000))],
        ]),
        { limits },
      ),
    ).toMatchObject({ status: 413, code: "too-large" });
    expect(
      await answer(
        request([["sheet", SHEET], ...["a", "b", "c"].map((name): [string, File] => ["file", file(`${name}.csv`)])]),
        { limits },
      ),
    ).toMatchObject({ status: 413, code: "too-many-files" });
    expect(await answer(request([["sheet", SHEET]]), { run: async () => ({ type: "late" }) })).toMatchObject({
      status: 504,
      code: "too-slow",
    });
    expect(
      await answer(request([["sheet", SHEET]]), { run: async () => ({ type: "failed", reason: "ERR" }) }),
    ).toMatchObject({ status: 500, code: "failed" });
  });

  it("stops reading a body that grows beyond the limit, whatever its head says", async () => {
    let given = 0;
    const endless = new ReadableStream<Uint8Array>({
      pull(control) {
        given += 1000;
        control.enqueue(new Uint8Array(1000));
      },
    });
    const asked = new Request("http://h/", {
      method: "POST",
      body: endless,
      headers: { "content-type": "multipart/form-data; boundary=b" },
      duplex: "half",
    } as RequestInit);
    expect(await answer(asked, { limits: { ...LIMITS, bytes: 20_000 } })).toMatchObject({
      status: 413,
      code: "too-large",
    });
    expect(given).toBeLessThan(60_000);
  });

  it("gives the turn back of who goes away, in the line and in the middle of a build", async () => {
    const queue = new Turns(1, 2);
    const away = [new AbortController(), new AbortController()] as const;
    const ended: string[] = [];
    const run = (_job: unknown, _limits: unknown, signal: AbortSignal) =>
      new Promise<RunResult>((end) =>
        signal.addEventListener("abort", () => {
          ended.push("run");
          end({ type: "gone" });
        }),
      );
    const asked = (leaving: AbortController) => {
      const form = new FormData();
      form.append("sheet", SHEET);
      return answerBuild(new Request("http://h/api/build", { method: "POST", body: form, signal: leaving.signal }), {
        queue,
        run,
      });
    };
    const [first, second] = [asked(away[0]), asked(away[1])];
    await expect.poll(() => queue.load).toEqual({ running: 1, waiting: 1 });
    away[1].abort();
    expect((await second).status).toBe(499);
    expect(queue.load).toEqual({ running: 1, waiting: 0 });
    away[0].abort();
    expect((await first).status).toBe(499);
    expect([queue.load, ended]).toEqual([{ running: 0, waiting: 0 }, ["run"]]);
  });

  it("lets so many run and wait, sends the rest away, and gives every turn back", async () => {
    const queue = new Turns(1, 1);
    const open: (() => void)[] = [];
    const slow = () =>
      answerBuild(request([["sheet", SHEET]]), {
        queue,
        run: () => new Promise<RunResult>((end) => open.push(() => end(done))),
      });
    const first = slow();
    const second = slow();
    await expect.poll(() => queue.load).toEqual({ running: 1, waiting: 1 });
    const third = await answer(request([["sheet", SHEET]]), { queue });
    expect([third.status, third.code, third.headers.get("retry-after")]).toEqual([503, "busy", "5"]);
    await expect.poll(() => open.length).toBe(1);
    open[0]?.();
    expect((await first).status).toBe(200);
    await expect.poll(() => open.length).toBe(2);
    open[1]?.();
    expect((await second).status).toBe(200);
    expect(queue.load).toEqual({ running: 0, waiting: 0 });
    await expect(
      answerBuild(request([["sheet", SHEET]]), { queue, run: () => Promise.reject(new Error("bug")) }),
    ).rejects.toThrow("bug");
    expect(queue.load).toEqual({ running: 0, waiting: 0 });
  });
});

describe("what is logged and what is ended", () => {
  it("logs sizes, times and codes, and nothing of anybody's", async () => {
    const lines: unknown[] = [];
    const info = vi.spyOn(log, "info").mockImplementation((line: unknown) => lines.push(line) as never);
    const findings = [
      {
        file: "sheet",
        line: 1,
        column: 1,
        severity: "error",
        code: "unread-cells",
        message: 'cell "Secret Lass" of column wages',
      },
    ];
    await answer(
      request([
        ["sheet", "still: 1\nreport: Secret report\n"],
        ["file", file("secret.csv", "wages\nSecret Lass\n")],
      ]),
      { run: async () => ({ type: "done", answer: { html: undefined, findings } }) },
    );
    info.mockRestore();
    expect(lines).toEqual([
      {
        event: "build",
        status: 422,
        milliseconds: expect.any(Number),
        files: 1,
        bytes: expect.any(Number),
        codes: ["unread-cells"],
      },
    ]);
    expect(/secret/i.test(JSON.stringify(lines))).toBe(false);
  });

  it("ends a build that takes too much memory, and says so", async () => {
    // Twelve columns of four million numbers are more than this.
    const text = `still: 1\nreport: R\ntables:\n  t: {make: {rows: 4000000, seed: 1}, steps: [{add: {${Array.from({ length: 12 }, (_, at) => `x${at}: "uniform(0, 1)"`).join(", ")}}}]}\ncharts: {c: {from: t, draw: figure, value: sum(x1)}}\n`;
    expect(await runBuild({ text, files: [] }, { ...LIMITS, memory: 250_000_000 })).toEqual({
      type: "memory",
      limit: 250_000_000,
    });
    expect(
      await answer(request([["sheet", SHEET]]), { run: async () => ({ type: "memory", limit: 3e9 }) }),
    ).toMatchObject({ status: 507, code: "too-much-memory" });
  });

  it("ends a build that nobody waits for any more", async () => {
    const away = new AbortController();
    const result = runBuild({ text: SHEET, files: [] }, LIMITS, away.signal);
    away.abort();
    expect(await result).toEqual({ type: "gone" });
  });

  it("ends a build whose time is up, and lets others be", async () => {
    const job = {
      text: 'still: 1\nreport: R\ntables: {t: {rows: "a\\n1\\n"}}\ncharts: {c: {from: t, draw: table}}\n',
      files: [],
    };
    expect(await runBuild(job, { ...LIMITS, seconds: 0 })).toEqual({ type: "late" });
    const result = await runBuild(job, LIMITS);
    expect(result.type === "done" && result.answer.html?.startsWith("<!doctype html>")).toBe(true);
  });
});

describe("docs/limits.md", () => {
  it("says every bound as it is", () => {
    expect(readFileSync("docs/limits.md", "utf8")).toBe(limitsReference());
  });
});

describe("the workbench's policy", () => {
  it("runs scripts by nonce only and asks nobody else for anything", () => {
    const policy = workbenchPolicy("abc");
    expect(policy).toContain("script-src 'nonce-abc' 'strict-dynamic'");
    expect(policy).toContain("default-src 'none'");
    expect(policy).not.toContain("unsafe-eval");
    expect(policy).not.toContain("http");
  });
});
