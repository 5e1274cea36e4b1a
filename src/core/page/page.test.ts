import { describe, expect, test } from "vitest";
import { defaultPage, readGrid, readTracks } from "./page";

describe("grids", () => {
  test("one name in adjoining cells is one area, a dot is empty", () => {
    expect(readGrid("a a b\n. c b\n").areas).toEqual([
      { piece: "a", column: 1, columnEnd: 3, row: 1, rowEnd: 2 },
      { piece: "b", column: 3, columnEnd: 4, row: 1, rowEnd: 3 },
      { piece: "c", column: 2, columnEnd: 3, row: 2, rowEnd: 3 },
    ]);
  });
  test("spaces and empty lines do not count", () => {
    expect(readGrid("\n  a    b  \n\n  c d\n")).toMatchObject({ columns: 2, rows: 2 });
  });
  test("names that make no rectangle, and rows of other lengths, are told", () => {
    expect(readGrid("a b\nb a").problem).toContain('"a" do not make a rectangle');
    expect(readGrid("a b\na").problem).toBe("row 2 of the grid has 1 cells, the first has 2");
  });
});

describe("tracks", () => {
  test.each(["1fr", "2.5fr", "96px", "30%", "auto", "min-content", "10em"])("%s is a size", (track) => {
    expect(readTracks(track)).toEqual({ tracks: [track] });
  });
  test.each(["wide", "1", "-2fr", "url(x)", "1fr;color:red", "calc(1px)", "1fr}"])("%s is none", (track) => {
    expect(readTracks(`1fr ${track}`).wrong).toBe(track);
  });
});

describe("the page of a sheet that has none", () => {
  test("figures first, the rest in two columns, a last one alone across both", () => {
    const page = defaultPage(
      "R",
      [
        { name: "bars", figure: false },
        { name: "total", figure: true },
        { name: "line", figure: false },
        { name: "list", figure: false },
      ],
      ["cargo"],
    );
    expect(page.side).toEqual(["cargo"]);
    expect(page.rows).toEqual(["96px", "320px", "320px"]);
    expect(page.areas.map(({ piece, column, columnEnd, row }) => [piece, column, columnEnd, row])).toEqual([
      ["total", 1, 3, 1],
      ["bars", 1, 2, 2],
      ["line", 2, 3, 2],
      ["list", 1, 3, 3],
    ]);
  });
});
