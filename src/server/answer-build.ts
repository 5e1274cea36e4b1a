import { overMemoryMessage } from "../memory/limit";
import { LIMITS, type Limits } from "./limits";
import { log } from "./log";
import { type BuildJob, isRefusal, type Refusal, readRequest } from "./read-request";
import { type RunResult, runBuild } from "./run-build";
import { Turns } from "./turns";

const turns = new Turns(LIMITS.atOnce, LIMITS.waiting);

/** How busy the server is; for its health. */
export const load = () => turns.load;

const json = (status: number, body: object, headers: Record<string, string> = {}) =>
  new Response(JSON.stringify(body), {
    status,
    headers: { "content-type": "application/json; charset=utf-8", "cache-control": "no-store", ...headers },
  });

const refused = ({ status, code, message }: Refusal, headers?: Record<string, string>) =>
  json(status, { error: { code, message } }, headers);

/** Nobody reads the answer of who went away; the number stands in the log. */
const left = () => new Response(null, { status: 499 });

interface Parts {
  limits?: Limits;
  queue?: Turns;
  run?: (job: BuildJob, limits: Limits, signal: AbortSignal) => Promise<RunResult>;
}

const BUSY: Refusal = { status: 503, code: "busy", message: "other builds are under way; ask again in a moment" };

/** The answer to a build that did not come to its end. */
function unfinished(result: Exclude<RunResult, { type: "done" }>, { seconds }: Limits): Response {
  if (result.type === "late") {
    const message = `this took longer than ${seconds} seconds; build it from the terminal`;
    return refused({ status: 504, code: "too-slow", message });
  }
  if (result.type === "gone") return left();
  if (result.type === "memory")
    return refused({ status: 507, code: "too-much-memory", message: overMemoryMessage(result.limit) });
  log.error({ event: "build-failed", reason: result.reason });
  return refused({ status: 500, code: "failed", message: "the build came to a stop; nothing of it was kept" });
}

/** A dashboard. It is for keeping: opened from here it would run as a page of this site, so it is sandboxed and offered. */
const dashboard = (html: string, findings: number) =>
  new Response(html, {
    headers: {
      "content-type": "text/html; charset=utf-8",
      "content-disposition": 'attachment; filename="dashboard.html"',
      "content-security-policy": "sandbox",
      "x-content-type-options": "nosniff",
      "cache-control": "no-store",
      "x-findings": String(findings),
    },
  });

/**
 * Answers a build request: the dashboard (200), what is wrong with the sheet (422), or why the
 * request was not taken (4xx, 503, 504, 507). Who goes away gives the turn back. Every answer is logged without
 * anything of its content.
 */
export async function answerBuild(
  request: Request,
  { limits = LIMITS, queue = turns, run = runBuild }: Parts = {},
): Promise<Response> {
  const started = performance.now();
  const done = (response: Response, more: object = {}) => {
    const milliseconds = Math.round(performance.now() - started);
    log.info({ event: "build", status: response.status, milliseconds, ...more });
    return response;
  };
  const job = await readRequest(request, limits);
  if (isRefusal(job)) return done(refused(job), { code: job.code });
  const bytes = job.files.reduce((sum, [, own]) => sum + own.length, job.text.length);
  const sent = { files: job.files.length, bytes };
  if (!(await queue.take(request.signal)))
    return done(request.signal.aborted ? left() : refused(BUSY, { "retry-after": "5" }), sent);
  let result: RunResult;
  try {
    result = await run(job, limits, request.signal);
  } finally {
    queue.give();
  }
  if (result.type !== "done") return done(unfinished(result, limits), sent);
  const { html, findings } = result.answer;
  const codes = [...new Set(findings.map(({ code }) => code))];
  if (html === undefined) return done(json(422, { findings }), { ...sent, codes });
  return done(dashboard(html, findings.length), { ...sent, codes, out: html.length });
}
