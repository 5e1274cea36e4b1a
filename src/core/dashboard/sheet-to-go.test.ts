import { describe, expect, test } from "vitest";
import { compileText } from "../testing/compile-text";
import { sheetToGo, withoutComments } from "./sheet-to-go";

const SHEET = `# canary at the top
still: 1
report: "R # no comment"  # canary behind
tables:
  t:
    # canary between
    rows: |
      k,v,hidden
      a,1,canary in a column
      # b,2,x
      c,3,y
    steps:
      - drop: [hidden] # canary at a step
  whole:
    rows: "k,n\\na,1"
charts:
  a: {from: t, draw: table, columns: [k, v]}
  b: {from: whole, draw: table}
`;

const goes = (text: string) => sheetToGo(compileText(text), text);

describe("the sheet as it goes along", () => {
  test("has no comments, and texts that look like some stay", () => {
    expect(withoutComments("a: b # c\n# d\ne: |\n  # f\ng: '# h' # i\n")).toBe("a: b\ne: |\n  # f\ng: '# h'\n");
    expect(withoutComments("a: 1\r\n# b\r\nc: 2\r\n")).toBe("a: 1\r\nc: 2\r\n");
  });

  test("has no cells that are not in the file, and keeps rows that are", () => {
    const text = goes(SHEET);
    expect(text).not.toContain("canary");
    expect(text).toContain("rows: k,v\n");
    expect(text).toContain('rows: "k,n\\na,1"');
    expect(text).toContain('report: "R # no comment"');
  });

  test("has no rows that a step leaves out", () => {
    const text = goes(SHEET.replace("drop: [hidden] # canary at a step", 'keep: hidden != "canary in a column"'));
    expect(text).not.toContain("a,1,canary");
  });

  test("is the author's own where all goes along", () => {
    expect(goes(`${SHEET}style: {tables: whole}\n`)).toContain("# canary at the top");
  });
});
