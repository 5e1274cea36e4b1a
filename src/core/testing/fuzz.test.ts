import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { buildDashboard } from "../dashboard/build";
import { readCsv, textOfBytes } from "../read/csv";
import { compileText } from "./compile-text";

const SHEET = readFileSync("examples/quay-calls/quay-calls.still.yaml", "utf8");
const CALLS = `call_id,vessel,berth,cargo,arrived,left,planned,waited,alongside,weight,tonnes,remarks
C-1,Tern,Granary,grain,2024-01-01 10:00,2024-01-01 20:00,2024-01-01 10:00,6.5,8:54:15,2557,1253,
C-2,Wren,Old Dock,fuel,2024-02-01 10:00,2024-02-01 20:00,2024-02-01 10:00,,0:30:00,100,50,"fog, late"
C-2,Wren,Old Dock,fuel,2024-02-01 10:00,2024-02-01 20:00,2024-02-01 10:00,,0:30:00,100,50,"fog, late"
C-3,Tern,Long Quay,salt,3. 3. 2024,,2024-03-01 10:00,2.0,,900,,
`;

/** Small changes that people make by accident: a stretch gone, doubled, swapped or overwritten. */
const damage = fc.record({
  at: fc.nat(4000),
  length: fc.nat(12),
  kind: fc.constantFrom("cut", "double", "write", "break"),
  text: fc.string({ maxLength: 6 }),
});

function damaged(
  text: string,
  { at, length, kind, text: written }: { at: number; length: number; kind: string; text: string },
): string {
  const start = at % (text.length + 1);
  const end = Math.min(text.length, start + length);
  if (kind === "cut") return text.slice(0, start) + text.slice(end);
  if (kind === "double") return text.slice(0, end) + text.slice(start);
  if (kind === "break") return `${text.slice(0, start)}\n${text.slice(start)}`;
  return text.slice(0, start) + written + text.slice(end);
}

describe("nothing that comes in from outside throws, hangs or goes without a word", () => {
  test("damaged sheets are compiled as far as they are sound, every finding with its place", () => {
    fc.assert(
      fc.property(fc.array(damage, { minLength: 1, maxLength: 4 }), (hits) => {
        const text = hits.reduce(damaged, SHEET);
        const { findings, plan, ok } = compileText(text, { "calls.csv": CALLS });
        for (const finding of findings) {
          expect(finding.message.length).toBeGreaterThan(5);
          if (finding.span) {
            expect(finding.span.start).toBeGreaterThanOrEqual(0);
            expect(finding.span.start).toBeLessThanOrEqual(text.length);
          }
          for (const edit of finding.fix?.edits ?? []) expect(edit.end).toBeLessThanOrEqual(text.length);
        }
        expect(ok).toBe(!findings.some(({ severity }) => severity === "error"));
        expect(Array.isArray(plan.pieces)).toBe(true);
      }),
      { numRuns: 250 },
    );
  });
  test("what of a damaged sheet is sound can be proofed", () => {
    fc.assert(
      fc.property(damage, (hit) => {
        const bytes = new TextEncoder().encode(CALLS);
        const built = buildDashboard(
          { text: damaged(SHEET, hit), fileName: "x", readFile: () => bytes },
          { viewer: () => "0", draft: true },
        );
        expect(built.html?.startsWith("<!doctype html>")).toBe(true);
        expect(/\sstyle=/.test((built.html ?? "").replace(/<script[^>]*>.*?<\/script>/gs, ""))).toBe(false);
      }),
      { numRuns: 120 },
    );
  });
  test("random bytes are a table or a finding", () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), (bytes) => {
        const { table, findings, report } = readCsv("x.csv", textOfBytes(bytes));
        for (const column of table.columns.values())
          expect(column.kind === "text" ? column.codes.length : column.values.length).toBe(table.rowCount);
        expect(report.rows).toBe(table.rowCount);
        if (table.columns.size === 0) expect(findings.length).toBeGreaterThan(0);
      }),
      { numRuns: 300 },
    );
  });
  test("damaged tables keep their columns equally long, and every unread cell is counted", () => {
    fc.assert(
      fc.property(fc.array(damage, { minLength: 1, maxLength: 6 }), (hits) => {
        const { table, report } = readCsv("x.csv", hits.reduce(damaged, CALLS));
        for (const column of table.columns.values())
          expect(column.kind === "text" ? column.codes.length : column.values.length).toBe(table.rowCount);
        for (const column of report.columns) {
          expect(column.unread).toBeGreaterThanOrEqual(column.examples.length);
          expect(column.missing + column.unread).toBeLessThanOrEqual(report.rows);
        }
      }),
      { numRuns: 200 },
    );
  });
});
