import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type Cells, insertTrack, placePiece, rectOf, removeTrack, writeGrid } from "./grid-edit";
import { gridCells, readGrid } from "./page";

const rect = (column: number, columnEnd: number, row: number, rowEnd: number) => ({ column, columnEnd, row, rowEnd });
const put = (text: string, name: string, ...to: [number, number, number, number]) => {
  const next = placePiece(gridCells(text), name, rect(...to));
  return next && writeGrid(next);
};

describe("a piece put elsewhere", () => {
  test("changes places with what it stands on whole", () => {
    expect(put("a b", "a", 1, 2, 0, 1)).toEqual(["b  a"]);
    expect(put("a b\na c", "a", 1, 2, 0, 1)).toEqual(["b  a", "b  c"]);
  });
  test("leaves others the largest part that is left to them", () => {
    expect(put("a b\n. b\n. b", "a", 1, 2, 0, 1)).toEqual([".  a", ".  b", ".  b"]);
    expect(put("a a\nb b", "a", 0, 1, 0, 2)).toEqual(["a  .", "a  b"]);
  });
  test("is not put outside, nor where another would have no place", () => {
    expect(put("a b", "a", 1, 3, 0, 1)).toBeUndefined();
    expect(put("a b\nc d", "a", 0, 2, 0, 2)).toBeUndefined();
  });
});

describe("tracks", () => {
  test("grow with pieces that reach over them", () => {
    expect(writeGrid(insertTrack(gridCells("a a b\nc d b"), "column", 1))).toEqual(["a  a  a  b", "c  .  d  b"]);
    expect(writeGrid(insertTrack(gridCells("a\na\nb"), "row", 3))).toEqual(["a", "a", "b", "."]);
  });
  test("go where no piece stands in them alone", () => {
    expect(removeTrack(gridCells("a a b"), "column", 0)).toEqual([["a", "b"]]);
    expect(removeTrack(gridCells("a b"), "column", 0)).toBeUndefined();
  });
});

test("whatever is put where, every piece stays, and stands in one rectangle", () => {
  const grid = fc
    .record({ columns: fc.integer({ min: 1, max: 4 }), rows: fc.integer({ min: 1, max: 4 }) })
    .map(
      ({ columns, rows }): Cells =>
        Array.from({ length: rows }, (_, y) => Array.from({ length: columns }, (__, x) => `p${y * columns + x}`)),
    );
  const move = fc.record({ name: fc.nat(15), x: fc.nat(3), y: fc.nat(3), width: fc.nat(3), height: fc.nat(3) });
  fc.assert(
    fc.property(grid, fc.array(move, { maxLength: 8 }), (start, moves) => {
      let cells = start;
      const names = new Set(start.flat());
      for (const { name, x, y, width, height } of moves) {
        const piece = [...names][name % names.size] as string;
        cells = placePiece(cells, piece, rect(x, x + width + 1, y, y + height + 1)) ?? cells;
      }
      expect(new Set(cells.flat().filter((cell) => cell !== "."))).toEqual(names);
      expect(readGrid(writeGrid(cells).join("\n")).problem).toBeUndefined();
      for (const name of names) expect(rectOf(cells, name)).toBeDefined();
    }),
  );
});
