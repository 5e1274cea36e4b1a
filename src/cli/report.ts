import type { Finding } from "../core/finding/finding";
import { lineOf, placeOf } from "../core/finding/place";

/** How findings are told, and which of them keep a file from being written. */
export interface Telling {
  json?: boolean;
  strict?: boolean;
}

/** A sheet with what was found in it. */
export interface Told {
  path: string;
  text: string;
  findings: readonly Finding[];
}

/** True if something keeps the file from being written. */
export const isRefused = ({ findings }: Told, { strict }: Telling): boolean =>
  findings.some(({ severity }) => severity === "error" || (strict === true && severity === "warning"));

/** Findings with line and column, as one list of plain objects. */
const plain = ({ path, text, findings }: Told) =>
  findings.map((finding) => ({
    file: finding.file ?? path,
    ...placeOf(text, finding.span?.start ?? 0),
    severity: finding.severity,
    code: finding.code,
    message: finding.message,
    ...(finding.fix ? { fix: finding.fix } : {}),
  }));

/** Says all findings: as lines on standard error, or as one JSON list on standard output. */
export function tell(told: readonly Told[], { json }: Telling) {
  if (json) process.stdout.write(`${JSON.stringify(told.flatMap(plain), null, 2)}\n`);
  else
    for (const { path, text, findings } of told)
      for (const finding of findings) process.stderr.write(`${lineOf(finding, path, text)}\n`);
}

export const kilobytes = (bytes: number) =>
  bytes < 1_000_000 ? `${Math.round(bytes / 1000)} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;
