import { readFileSync } from "node:fs";
import { parentPort, workerData } from "node:worker_threads";
import { buildDashboard } from "../core/dashboard/build";
import { placeOf } from "../core/finding/place";
import { prepareFiles } from "../core/plan/prepare";
import type { BuildJob } from "./read-request";

/** A finding as the answer gives it. */
export interface SentFinding {
  file: string;
  line: number;
  column: number;
  severity: string;
  code: string;
  message: string;
  fix?: string;
}

export interface ThreadAnswer {
  html: string | undefined;
  findings: SentFinding[];
}

/** The name that findings call the sheet by; no name of a file comes with it. */
const SHEET = "sheet";

/** One build in a thread of its own, which can be ended at any time. It reads what was sent, and the viewer. */
const { job, viewerFile } = workerData as { job: BuildJob; viewerFile: string };
const files = new Map(job.files);
const input = { text: job.text, fileName: SHEET, readFile: (path: string) => files.get(path), listFiles: () => [...files.keys()] };
await prepareFiles(input);
const built = buildDashboard(input, { viewer: readFileSync(viewerFile, "utf8") });
const findings = built.findings.map((finding): SentFinding => {
  const place = finding.file ? { line: 1, column: 1 } : placeOf(job.text, finding.span?.start ?? 0);
  return { file: finding.file ?? SHEET, ...place, severity: finding.severity, code: finding.code, message: finding.message, ...(finding.fix ? { fix: finding.fix.title } : {}) };
});
parentPort?.postMessage({ html: built.html, findings } satisfies ThreadAnswer);
