"use client";

import { type KeyboardEvent, type PointerEvent, useState } from "react";
import styled from "styled-components";
import type { TextEdit } from "../../core/finding/finding";
import { type CellRect, type Cells, cellsOf, placePiece, rectOf, writeGrid } from "../../core/page/grid-edit";
import type { PagePlan } from "../../core/page/page";
import { setGrid } from "../../core/sheet/edit/page-edit";
import { intoTabs, outOfTabs } from "../../core/sheet/edit/tabs-edit";
import type { ProofTracks } from "../../viewer/proof/listen";
import { useDesk, useDeskState } from "../desk/desk-context";
import { useStore } from "../desk/store";
import { shortestEdit } from "../desk/text-edit";
import { type Laid, useInTurn } from "./in-turn";
import { Ruler, Rulers } from "./lay-rulers";
import { laying } from "./proof-place";

/** Pixels at the top of a piece in which another is dropped to make tabs. */
const HEAD = 26;

const Over = styled.div`
  position: absolute;
  inset: 0;
  overflow: hidden;
  cursor: default;
  background: color-mix(in srgb, var(--ground) 45%, transparent);
`;

const Piece = styled.div`
  position: absolute;
  border: 1px solid var(--sea);
  background: color-mix(in srgb, var(--sheet) 55%, transparent);
  cursor: grab;
  touch-action: none;
  overflow: hidden;
  > b {
    position: absolute;
    left: 0;
    top: 0;
    padding: 2px 8px 3px;
    background: var(--sheet);
    border: solid var(--sea);
    border-width: 0 1px 1px 0;
  }
  &:focus-visible {
    outline: 2px solid var(--sea);
    outline-offset: 2px;
  }
`;

/** The head of a piece while another is held: dropped there, both are tabs of one place. */
const Head = styled.i`
  position: absolute;
  inset: 0 0 auto 0;
  height: ${HEAD}px;
  display: grid;
  place-items: center;
  font-style: normal;
  font-size: 12px;
  background: var(--band);
  border-bottom: 1px dashed var(--brass);
  &[data-over] {
    background: var(--brass);
    color: var(--ground);
  }
`;

const Inside = styled.ul`
  position: absolute;
  list-style: none;
  li {
    background: var(--sheet);
    padding: 0 8px;
  }
  button {
    font: inherit;
    border: 0;
    background: none;
    color: var(--sea);
    cursor: pointer;
    text-decoration: underline;
  }
`;

const Ghost = styled.div`
  position: absolute;
  border: 2px solid var(--brass);
  background: color-mix(in srgb, var(--brass) 14%, transparent);
  pointer-events: none;
`;

const Edge = styled.span`
  position: absolute;
  touch-action: none;
`;

const EDGES = {
  left: { style: { left: 0, top: 0, bottom: 0, width: 9, cursor: "ew-resize" } },
  right: { style: { right: 0, top: 0, bottom: 0, width: 9, cursor: "ew-resize" } },
  top: { style: { top: 0, left: 0, right: 0, height: 9, cursor: "ns-resize" } },
  bottom: { style: { bottom: 0, left: 0, right: 0, height: 9, cursor: "ns-resize" } },
} as const;
type EdgeName = keyof typeof EDGES;

/** Columns and rows by which an arrow moves a piece. */
const STEPS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Where tracks begin, in pixels. */
const begins = (start: number, sizes: readonly number[], gap: number): number[] =>
  sizes.map((_, at) => start + sizes.slice(0, at).reduce((sum, size) => sum + size, 0) + gap * at);

/** The number of the track at a pixel. */
function trackAt(places: readonly number[], sizes: readonly number[], pixel: number): number {
  const at = places.findIndex((place, n) => pixel < place + (sizes[n] as number));
  return at < 0 ? places.length - 1 : at;
}

interface Dragging {
  name: string;
  edge: EdgeName | undefined;
  /** The cell in which it was taken, from its own upper left. */
  grab: { column: number; row: number };
  rect: CellRect;
  /** The piece over whose head it is held, to be in tabs with it. */
  tabs?: string | undefined;
}

/** A rectangle whose one edge goes to a cell. */
function stretched(rect: CellRect, edge: EdgeName, column: number, row: number): CellRect {
  if (edge === "left") return { ...rect, column: Math.min(column, rect.columnEnd - 1) };
  if (edge === "right") return { ...rect, columnEnd: Math.max(column + 1, rect.column + 1) };
  if (edge === "top") return { ...rect, row: Math.min(row, rect.rowEnd - 1) };
  return { ...rect, rowEnd: Math.max(row + 1, rect.row + 1) };
}

/** The page laid out by hand, over the proof: pieces are moved and stretched over the lines of its grid. */
export function LayPage() {
  const tracks = useStore(laying, (one) => one.tracks);
  const pages = useDeskState((state) => state.reply?.pages);
  const text = useDeskState((state) => state.text);
  // Drawn again when the picture has caught up: what waited for it is carried out then.
  useDeskState((state) => state.replyText === state.text);
  const page = tracks && pages?.[tracks.page];
  if (!tracks || !page) return null;
  if (!/^pages:/m.test(text)) return <WriteFirst page={page} />;
  return <Grid tracks={tracks} page={page} />;
}

/** A sheet that says nothing of pages: the page that it has by itself is written into it first. */
function WriteFirst({ page }: { page: PagePlan }) {
  const desk = useDesk();
  const write = () => {
    const { text } = desk.state.get();
    const side = page.side.length ? `    side: [${page.side.join(", ")}]\n` : "";
    const grid = writeGrid(cellsOf(page)).map((line) => `      ${line}\n`);
    const lines = `pages:\n  - page: Overview\n${side}    height: content\n    columns: ${page.columns.join(" ")}\n    rows: ${page.rows.join(" ")}\n    grid: |\n${grid.join("")}`;
    desk.edit([{ start: text.length, end: text.length, text: `${text.endsWith("\n") ? "\n" : "\n\n"}${lines}` }]);
  };
  return (
    <Over>
      <Ruler style={{ left: "50%", top: 120, transform: "translateX(-50%)", padding: "10px 16px" }}>
        The sheet says nothing of pages.
        <button type="button" onClick={write}>
          write this page into it
        </button>
      </Ruler>
    </Over>
  );
}

function Grid({ tracks, page }: { tracks: ProofTracks; page: PagePlan }) {
  const desk = useDesk();
  const [drag, setDrag] = useState<Dragging>();
  const cells = cellsOf(page);
  const inTurn = useInTurn({ page, cells, tracks });
  const xs = begins(tracks.left, tracks.columns, tracks.gap.x);
  const ys = begins(tracks.top, tracks.rows, tracks.gap.y);
  const box = ({ column, columnEnd, row, rowEnd }: CellRect) => ({
    left: xs[column],
    top: ys[row],
    width: (xs[columnEnd - 1] ?? 0) + (tracks.columns[columnEnd - 1] ?? 0) - (xs[column] ?? 0),
    height: (ys[rowEnd - 1] ?? 0) + (tracks.rows[rowEnd - 1] ?? 0) - (ys[row] ?? 0),
  });
  const write = (next: Cells | undefined, ...more: (TextEdit[] | undefined)[]) => {
    if (!next) return desk.state.set({ notice: "there is no room for that: another piece would have no place" });
    const edits = setGrid(desk.state.get().text, tracks.page, writeGrid(next));
    if (edits) desk.edit([...edits, ...more.flatMap((own) => own ?? [])]);
  };
  const rewrite = (next: string | undefined) => {
    const { text } = desk.state.get();
    if (next === undefined) desk.state.set({ notice: "these two cannot share a place as tabs" });
    else desk.edit([shortestEdit(text, next)]);
  };
  const intoTabsOf = (laid: Laid, name: string, target: string) =>
    rewrite(intoTabs(desk.state.get().text, laid.tracks.page, laid.page, name, target));
  const takeOut = (tabs: string, name: string) =>
    inTurn((laid) => {
      const shared = laid.page.areas.find(({ piece }) => piece === tabs)?.shared;
      if (shared) rewrite(outOfTabs(desk.state.get().text, laid.tracks.page, laid.page, shared, name));
    });
  /** The piece whose head is at a place of the page, in its pixels. */
  const headAt = (x: number, y: number, but: string) =>
    page.areas.find(({ piece, shared }) => {
      const rect = piece === but || (shared && shared.sharing !== "tabs") ? undefined : rectOf(cells, piece);
      const { left = 0, top = 0, width } = rect ? box(rect) : { width: 0 };
      return x >= left && x < left + width && y >= top && y < top + HEAD;
    })?.piece;
  const pixelAt = (event: PointerEvent) => {
    const over = event.currentTarget.closest("[data-lay]")?.getBoundingClientRect();
    const scale = over ? over.width / ((event.currentTarget.closest("[data-lay]") as HTMLElement).offsetWidth || 1) : 1;
    return { x: (event.clientX - (over?.left ?? 0)) / scale, y: (event.clientY - (over?.top ?? 0)) / scale };
  };
  const cellAt = (event: PointerEvent) => {
    const { x, y } = pixelAt(event);
    return { column: trackAt(xs, tracks.columns, x), row: trackAt(ys, tracks.rows, y) };
  };
  const take = (event: PointerEvent, name: string, rect: CellRect, edge?: EdgeName) => {
    event.preventDefault();
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    const { column, row } = cellAt(event);
    setDrag({ name, edge, grab: { column: column - rect.column, row: row - rect.row }, rect });
  };
  const move = (event: PointerEvent) => {
    if (!drag) return;
    const { column, row } = cellAt(event);
    const own = rectOf(cells, drag.name);
    if (!own) return;
    const rect = drag.edge
      ? stretched(own, drag.edge, column, row)
      : movedTo(own, column - drag.grab.column, row - drag.grab.row, cells);
    const { x, y } = pixelAt(event);
    const isWhole = !drag.edge && page.areas.some(({ piece, shared }) => piece === drag.name && !shared);
    setDrag({ ...drag, rect, tabs: isWhole ? headAt(x, y, drag.name) : undefined });
  };
  const drop = () => {
    setDrag(undefined);
    const own = drag && rectOf(cells, drag.name);
    if (!drag || !own) return;
    const { name, tabs, rect } = drag;
    if (tabs !== undefined) inTurn((laid) => intoTabsOf(laid, name, tabs));
    else if (JSON.stringify(own) !== JSON.stringify(rect)) inTurn((laid) => write(placePiece(laid.cells, name, rect)));
  };
  const step = (laid: Laid, name: string, [x, y]: readonly [number, number], how: "move" | "stretch" | "tabs") => {
    const rect = rectOf(laid.cells, name);
    if (!rect) return;
    if (how === "tabs") {
      const beside = neighbourOf(laid.cells, rect, x, y);
      return beside === undefined ? undefined : intoTabsOf(laid, name, beside);
    }
    const next =
      how === "stretch"
        ? { ...rect, columnEnd: rect.columnEnd + x, rowEnd: rect.rowEnd + y }
        : movedTo(rect, rect.column + x, rect.row + y, laid.cells);
    write(placePiece(laid.cells, name, next));
  };
  const key = (event: KeyboardEvent, name: string) => {
    const by = STEPS[event.key];
    if (!by) return;
    event.preventDefault();
    const how = event.altKey ? "tabs" : event.shiftKey ? "stretch" : "move";
    inTurn((laid) => step(laid, name, by, how), event.repeat);
  };
  return (
    <Over data-lay role="group" aria-label="The page laid out by hand">
      <Rulers tracks={tracks} page={page} xs={xs} ys={ys} write={write} inTurn={inTurn} />
      {[...new Set(cells.flat())].map((name) => {
        const rect = name === "." ? undefined : rectOf(cells, name);
        if (!rect) return null;
        return (
          <Piece
            key={name}
            role="button"
            tabIndex={0}
            style={box(rect)}
            aria-label={`${name}: columns ${rect.column + 1} to ${rect.columnEnd}, rows ${rect.row + 1} to ${rect.rowEnd}; arrows move it, Shift and arrows stretch it, Alt and an arrow put it into tabs with its neighbour`}
            onKeyDown={(event) => key(event, name)}
            onPointerDown={(event) => take(event, name, rect)}
            onPointerMove={move}
            onPointerUp={drop}
            onPointerCancel={() => setDrag(undefined)}
          >
            <b>{name}</b>
            {drag && !drag.edge && drag.name !== name && (
              <Head {...(drag.tabs === name ? { "data-over": true } : {})}>in tabs with {name}</Head>
            )}
            {(Object.keys(EDGES) as EdgeName[]).map((edge) => (
              <Edge
                key={edge}
                data-edge={edge}
                style={EDGES[edge].style}
                onPointerDown={(event) => take(event, name, rect, edge)}
                onPointerMove={move}
                onPointerUp={drop}
                onPointerCancel={() => setDrag(undefined)}
              />
            ))}
          </Piece>
        );
      })}
      {!drag &&
        page.areas.map(({ shared, piece }) => {
          const rect = shared?.sharing === "tabs" ? rectOf(cells, piece) : undefined;
          if (!shared || !rect) return null;
          const { left = 0, top = 0 } = box(rect);
          return (
            <Inside key={piece} aria-label={`Tabs of ${piece}`} style={{ left: left + 8, top: top + 30 }}>
              {shared.items.map((item) =>
                "piece" in item ? (
                  <li key={item.piece}>
                    {item.piece}{" "}
                    <button
                      type="button"
                      aria-label={`take out ${item.piece}`}
                      onClick={() => takeOut(piece, item.piece)}
                    >
                      take out
                    </button>
                  </li>
                ) : null,
              )}
            </Inside>
          );
        })}
      {drag && drag.tabs === undefined && <Ghost style={box(drag.rect)} />}
    </Over>
  );
}

/** The first piece along the side of a rectangle that lies in a direction. */
function neighbourOf(cells: Cells, { column, columnEnd, row, rowEnd }: CellRect, x: number, y: number) {
  const side = y
    ? (cells[y < 0 ? row - 1 : rowEnd] ?? []).slice(column, columnEnd)
    : cells.slice(row, rowEnd).map((line) => line[x < 0 ? column - 1 : columnEnd] ?? ".");
  return side.find((cell) => cell !== ".");
}

/** A rectangle moved so that it begins at a cell, within the grid. */
function movedTo(rect: CellRect, column: number, row: number, cells: Cells): CellRect {
  const [width, height] = [rect.columnEnd - rect.column, rect.rowEnd - rect.row];
  const x = Math.max(0, Math.min((cells[0]?.length ?? 0) - width, column));
  const y = Math.max(0, Math.min(cells.length - height, row));
  return { column: x, columnEnd: x + width, row: y, rowEnd: y + height };
}
