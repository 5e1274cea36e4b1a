import { expose } from "comlink";
import { buildDashboard } from "../../core/dashboard/build";
import { type Finding, hasErrors } from "../../core/finding/finding";
import { placeOf } from "../../core/finding/place";
import { CompileCache } from "../../core/plan/cache";

/** A finding with its place, ready to be shown. */
export interface PlacedFinding extends Finding {
  line: number;
  column: number;
}

export interface BuildReply {
  html: string | undefined;
  findings: PlacedFinding[];
  /** False while errors stand: the proof shows what is sound, nothing is written. */
  ok: boolean;
  rowsIn: number;
  rowsKept: number;
  charts: number;
  links: number;
  milliseconds: number;
}

/** What keeps the file from being written comes first. */
const SEVERITIES = ["error", "warning", "advice"];

const files = new Map<string, Uint8Array>();
const cache = new CompileCache();
let viewer = "";

const api = {
  /** Hands over the viewer's script and the files beside the sheet. */
  open(script: string, given: [string, Uint8Array][]) {
    viewer = script;
    files.clear();
    for (const [name, bytes] of given) files.set(name, bytes);
  },
  /** Compiles the sheet: what is sound is built even while errors stand. */
  build(text: string, fileName: string): BuildReply {
    const started = performance.now();
    const built = buildDashboard({ text, fileName, readFile: (path) => files.get(path), cache }, { viewer, draft: true });
    const findings = built.findings.map((finding) => ({ ...finding, ...placeOf(text, finding.span?.start ?? 0) }));
    findings.sort((a, b) => SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity) || a.line - b.line || a.column - b.column);
    const read = built.accounts.filter(({ report }) => report);
    return {
      html: built.plan.pieces.length || built.ok ? built.html : undefined,
      findings,
      ok: !hasErrors(built.findings),
      rowsIn: read.reduce((sum, { report }) => sum + (report?.rows ?? 0), 0),
      rowsKept: read.reduce((sum, { rowCount }) => sum + rowCount, 0),
      charts: built.plan.pieces.length,
      links: built.sheet.links.length,
      milliseconds: performance.now() - started,
    };
  },
};

export type CompileWorker = typeof api;

expose(api);
