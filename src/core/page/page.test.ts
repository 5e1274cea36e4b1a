import { describe, expect, test } from "vitest";
import {
  defaultPage,
  type HeightOf,
  naturalRows,
  type PagePlan,
  piecesOn,
  readGrid,
  readTracks,
  shareOf,
  tabsAbove,
} from "./page";

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
  test("are those of CSS, with bounds and repeated ones", () => {
    expect(readTracks("minmax(200px, 2fr)  fit-content( 40% ) auto")).toEqual({
      tracks: ["minmax(200px,2fr)", "fit-content(40%)", "auto"],
    });
    expect(readTracks("repeat(2, 1fr 20px) repeat(1, minmax(0, 1fr))").tracks).toEqual([
      "1fr",
      "20px",
      "1fr",
      "20px",
      "minmax(0,1fr)",
    ]);
    for (const wrong of [
      "minmax(200px)",
      "repeat(0,1fr)",
      "repeat(2,",
      "calc(1px + 2px)",
      "minmax(1px,url(x))",
      "1fr;}",
    ])
      expect(readTracks(wrong).wrong, wrong).toBeDefined();
  });
  test("take a part of the room that is left, or none", () => {
    expect(["2fr", "minmax(200px,1.5fr)", "minmax(1fr,200px)", "200px", "auto"].map(shareOf)).toEqual([
      2,
      1.5,
      undefined,
      undefined,
      undefined,
    ]);
  });
});

describe("the page of a sheet that has none", () => {
  test.each([
    [1, ["1-3"]],
    [2, ["1-2", "2-3"]],
    [3, ["1-3", "3-5", "5-7"]],
    [4, ["1-2", "2-3", "1-2", "2-3"]],
    [5, ["1-3", "3-5", "5-7", "1-4", "4-7"]],
  ])("%d figures fill their rows", (count, spans) => {
    const figures = Array.from({ length: count }, (_, at) => ({ name: `f${at}`, type: "figure" }));
    const page = defaultPage("R", [...figures, { name: "a", type: "chart" }, { name: "b", type: "chart" }], []);
    expect(page.areas.slice(0, count).map(({ column, columnEnd }) => `${column}-${columnEnd}`)).toEqual(spans);
    // Charts stand in halves of the page.
    const half = page.columns.length / 2;
    expect(page.areas.slice(count).map(({ column, columnEnd }) => [column, columnEnd])).toEqual([
      [1, 1 + half],
      [1 + half, 1 + 2 * half],
    ]);
  });
  test("figures first, the rest in two columns, notes as high as they need, a last one alone across both", () => {
    const page = defaultPage(
      "R",
      [
        { name: "bars", type: "chart" },
        { name: "total", type: "figure" },
        { name: "line", type: "chart" },
        { name: "words", type: "note" },
        { name: "list", type: "table" },
      ],
      ["cargo"],
    );
    expect(page.side).toEqual(["cargo"]);
    expect(page.rows).toEqual(["96px", "320px", "320px", "auto"]);
    expect(page.areas.map(({ piece, column, columnEnd, row }) => [piece, column, columnEnd, row])).toEqual([
      ["total", 1, 3, 1],
      ["bars", 1, 2, 2],
      ["line", 2, 3, 2],
      ["list", 1, 3, 3],
      ["words", 1, 3, 4],
    ]);
  });
});

describe("places that several share", () => {
  const page: PagePlan = {
    name: "P",
    side: [],
    columns: ["1fr", "1fr"],
    rows: [],
    height: "content",
    areas: [
      { piece: "total", column: 1, columnEnd: 3, row: 1, rowEnd: 2 },
      {
        piece: "left",
        column: 1,
        columnEnd: 2,
        row: 2,
        rowEnd: 3,
        shared: {
          area: "left",
          sharing: "tabs",
          items: [{ piece: "a" }, { area: "pair", sharing: "stack", items: [{ piece: "b" }, { piece: "c" }] }],
        },
      },
      { piece: "d", column: 2, columnEnd: 3, row: 2, rowEnd: 3 },
    ],
  };

  test("all their pieces stand on the page, and know the tabs above them", () => {
    expect(piecesOn(page)).toEqual(["total", "a", "b", "c", "d"]);
    expect(Object.fromEntries(tabsAbove(page))).toEqual({
      total: [],
      a: [{ area: "left", tab: 0 }],
      b: [{ area: "left", tab: 1 }],
      c: [{ area: "left", tab: 1 }],
      d: [],
    });
  });

  const high: HeightOf = (name) => ({ pixels: name === "total" || name.startsWith("low") ? 0 : 320 });
  test("rows are as high as what stands in them: low ones as they need, stacks for all of theirs", () => {
    expect(naturalRows(page, 2, high)).toEqual(["auto", "654px"]);
    expect(naturalRows({ ...page, height: "screen" }, 2, high)).toEqual(["auto", "1fr"]);
    const beside = (areas: PagePlan["areas"], rows: number) => naturalRows({ ...page, areas }, rows, high);
    const area = (piece: string, column: number, row: number, rowEnd = row + 1) => ({
      piece,
      column,
      columnEnd: column + 1,
      row,
      rowEnd,
    });
    // A chart beside two figures needs room of its own; one that has a full row as well does not.
    expect(beside([area("low1", 1, 1), area("low2", 1, 2), area("chart", 2, 1, 3)], 2)).toEqual(["160px", "160px"]);
    expect(beside([area("low1", 1, 1), area("bars", 1, 2), area("chart", 2, 1, 3)], 2)).toEqual(["auto", "320px"]);
  });
  test("rows are as high as the heights that the sheet states, of the highest piece in them", () => {
    const stated: HeightOf = (name) => (name === "d" ? { pixels: 420, said: true } : high(name));
    const rows = (height: PagePlan["height"], heightOf: HeightOf) => naturalRows({ ...page, height }, 2, heightOf);
    expect(rows("content", stated)).toEqual(["auto", "654px"]);
    expect(rows("content", (name) => (name === "d" ? { pixels: 700, said: true } : high(name)))).toEqual([
      "auto",
      "700px",
    ]);
    // Of a screen only rows of stated heights alone are not shared.
    expect(rows("screen", stated)).toEqual(["auto", "1fr"]);
    expect(rows("screen", () => ({ pixels: 100, said: true }))).toEqual(["100px", "214px"]);
    const tall = { name: "a", type: "chart", height: 500 };
    expect(defaultPage("R", [tall, { name: "b", type: "table" }, { name: "c", type: "chart" }], []).rows).toEqual([
      "500px",
      "320px",
    ]);
  });
});
