import { describe, expect, test } from "vitest";
import { readCsv } from "./csv";
import { intakeChanges } from "./intake-check";

const said = (before: string, after: string) =>
  intakeChanges(readCsv("a.csv", before).table, readCsv("a.csv", after).table).map(
    ({ what, says }) => `${what}: ${says}`,
  );
const rows = (head: string, row: (at: number) => string, count = 20) =>
  `${head}\n${Array.from({ length: count }, (_, at) => row(at)).join("\n")}\n`;

describe("next month's file against this month's", () => {
  test("nothing is said where nothing changed but the rows", () => {
    expect(
      said(
        rows("day,berth,t", (at) => `2025-01-${String(at + 1).padStart(2, "0")},${"ABC"[at % 3]},${at}`),
        rows("day,berth,t", (at) => `2025-02-${String(at + 1).padStart(2, "0")},${"ABC"[at % 3]},${at + 1}`),
      ),
    ).toEqual([]);
  });
  test("columns gone, new, and renamed by name or by what they hold", () => {
    expect(
      said(
        rows("berth,t,x", (at) => `${"ABC"[at % 3]},${at},1`),
        rows("Berth,tons,y,note", (at) => `${"ABC"[at % 3]},${at},z,n${at}`),
      ),
    ).toEqual([
      "renamed: berth seems to be called Berth now",
      "renamed: t seems to be called tons now",
      "gone: the column x is gone",
      "new: the column y is new",
      "new: the column note is new",
    ]);
  });
  test("kinds, categories, more missing, values that moved, rows", () => {
    expect(
      said(
        rows("v", (at) => String(at)),
        rows("v", (at) => `v${at}`),
      ),
    ).toEqual(["kind: v held number and now holds text"]);
    expect(
      said(
        rows("c", (at) => "AB"[at % 2] as string),
        rows("c", (at) => "AC"[at % 2] as string),
      ),
    ).toEqual(["categories: c has new values: C", "categories: c lacks B"]);
    expect(
      said(
        rows("v,w", (at) => `${at},1`),
        rows("v,w", (at) => (at < 10 ? `,1` : `${at},1`)),
      )[0],
    ).toBe("missing: v was missing in 0 % of rows and is now in 50 %");
    expect(
      said(
        rows("v", (at) => String(at)),
        rows("v", (at) => String(at * 1000)),
      )[0],
    ).toContain("range: v has moved: its median was 9.5 and is 9500");
    expect(
      said(
        rows("v", () => "1"),
        rows("v", () => "1", 5),
      ),
    ).toEqual(["rows: 5 rows, where there were 20"]);
  });
});
