import { readFileSync } from "node:fs";
import { prepareFiles } from "../core/compile/prepare";
import { buildDashboard } from "../core/dashboard/build";
import { scriptFor, type ViewerKit } from "../core/dashboard/parts";
import { placeOf } from "../core/finding/place";
import { watchMemory } from "../memory/watch";
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

export interface BuildAnswer {
  html: string | undefined;
  findings: SentFinding[];
}

/** What the process is asked for, once. */
export interface BuildOrder {
  job: BuildJob;
  viewerFile: string;
  memory: number;
}

/** The name that findings call the sheet by; no name of a file comes with it. */
const SHEET = "sheet";

async function answer({ job, viewerFile }: BuildOrder): Promise<BuildAnswer> {
  const files = new Map(job.files);
  const input = {
    text: job.text,
    fileName: SHEET,
    readFile: (path: string) => files.get(path),
    listFiles: () => [...files.keys()],
  };
  const sheet = await prepareFiles(input);
  const built = buildDashboard(
    { ...input, sheet },
    { viewer: scriptFor(JSON.parse(readFileSync(viewerFile, "utf8")) as ViewerKit) },
  );
  const findings = built.findings.map((finding): SentFinding => {
    const place = finding.file ? { line: 1, column: 1 } : placeOf(job.text, finding.span?.start ?? 0);
    return {
      file: finding.file ?? SHEET,
      ...place,
      severity: finding.severity,
      code: finding.code,
      message: finding.message,
      ...(finding.fix ? { fix: finding.fix.title } : {}),
    };
  });
  return { html: built.html, findings };
}

// One build in a process of its own, which can be ended at any time. It reads what was sent, and the viewer.
process.once("message", (order: BuildOrder) => {
  watchMemory(order.memory);
  void answer(order).then((built) => process.send?.(built, () => process.exit(0)));
});
