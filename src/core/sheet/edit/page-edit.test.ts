import { describe, expect, test } from "vitest";
import { applyEdits } from "../../finding/finding";
import { setGrid, setTracks } from "./page-edit";

const written = (text: string, lines: string[], page = 0) => applyEdits(text, setGrid(text, page, lines) ?? []);

describe("the grid of a page", () => {
  test("keeps its block, and every other byte of the sheet", () => {
    const text = "pages:\n  - page: P # first\n    grid: |\n        a b\n    side: [k]\n";
    expect(written(text, ["a  b", "c  ."])).toBe(
      "pages:\n  - page: P # first\n    grid: |\n        a  b\n        c  .\n    side: [k]\n",
    );
  });
  test("becomes a block where it was a line, and stays a text in a page of one line", () => {
    expect(written("pages:\n  - page: P\n    grid: a b\n", ["a", "b"])).toBe(
      "pages:\n  - page: P\n    grid: |\n      a\n      b\n",
    );
    expect(written("pages:\n  - page: P\n", ["a", "b"])).toBe("pages:\n  - page: P\n    grid: |\n      a\n      b\n");
    expect(written("pages: [{page: P, grid: a b}]\n", ["a", "b"])).toBe('pages: [{page: P, grid: "a\\nb"}]\n');
  });
  test("has sizes of its own", () => {
    const text = "pages:\n  - page: P\n    columns: 1fr 1fr\n    grid: a b\n";
    expect(applyEdits(text, setTracks(text, 0, "columns", ["2fr", "300px"]) ?? [])).toContain("columns: 2fr 300px\n");
  });
});
