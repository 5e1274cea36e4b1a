"use client";

import type { CSSProperties, KeyboardEvent, PointerEvent } from "react";
import styled from "styled-components";
import type { TextEdit } from "../../core/finding/finding";
import { type CellRect, type Cells, cellsOf, placePiece, rectOf, writeGrid } from "../../core/page/grid-edit";
import type { PagePlan } from "../../core/page/page";
import { setGrid } from "../../core/sheet/edit/page-edit";
import { shortestEdit } from "../../core/sheet/edit/shortest-edit";
import { intoTabs, outOfTabs } from "../../core/sheet/edit/tabs-edit";
import type { ProofTracks } from "../../viewer/proof/listen";
import { useDesk, useDeskState } from "../desk/desk-context";
import { useStore } from "../desk/store";
import { type Laid, useInTurn } from "./in-turn";
import { boxOf, EDGES, type EdgeName, HEAD, type Lattice, latticeOf, movedTo, neighbourOf } from "./lay-lattice";
import { Ruler, Rulers } from "./lay-rulers";
import { laying } from "./proof-place";
import { type Dragging, useDragging } from "./use-dragging";

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

/** Columns and rows by which an arrow moves a piece. */
const STEPS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

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

/** What is written into the sheet when pieces are laid elsewhere. */
function useLaying() {
  const desk = useDesk();
  const write = (laid: Pick<Laid, "tracks">, next: Cells | undefined, ...more: (TextEdit[] | undefined)[]) => {
    if (!next) return desk.state.set({ notice: "there is no room for that: another piece would have no place" });
    const edits = setGrid(desk.state.get().text, laid.tracks.page, writeGrid(next));
    if (edits) desk.edit([...edits, ...more.flatMap((own) => own ?? [])]);
  };
  const rewrite = (next: string | undefined) => {
    const { text } = desk.state.get();
    if (next === undefined) desk.state.set({ notice: "these two cannot share a place as tabs" });
    else desk.edit([shortestEdit(text, next)]);
  };
  const intoTabsOf = (laid: Laid, name: string, target: string) =>
    rewrite(intoTabs(desk.state.get().text, laid.tracks.page, laid.page, name, target));
  const takeOut = (laid: Laid, tabs: string, name: string) => {
    const shared = laid.page.areas.find(({ piece }) => piece === tabs)?.shared;
    if (shared) rewrite(outOfTabs(desk.state.get().text, laid.tracks.page, laid.page, shared, name));
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
    write(laid, placePiece(laid.cells, name, next));
  };
  return { write, intoTabsOf, takeOut, step };
}

function Grid({ tracks, page }: { tracks: ProofTracks; page: PagePlan }) {
  const cells = cellsOf(page);
  const inTurn = useInTurn({ page, cells, tracks });
  const lattice = latticeOf(tracks, page, cells);
  const { write, intoTabsOf, takeOut, step } = useLaying();
  const { drag, take, held } = useDragging(lattice, ({ name, tabs, rect }) =>
    inTurn((laid) => {
      if (tabs !== undefined) intoTabsOf(laid, name, tabs);
      else write(laid, placePiece(laid.cells, name, rect));
    }),
  );
  const key = (event: KeyboardEvent, name: string) => {
    const by = STEPS[event.key];
    if (!by) return;
    event.preventDefault();
    const how = event.altKey ? "tabs" : event.shiftKey ? "stretch" : "move";
    inTurn((laid) => step(laid, name, by, how), event.repeat);
  };
  return (
    <Over data-lay role="group" aria-label="The page laid out by hand">
      <Rulers lattice={lattice} write={write} inTurn={inTurn} />
      {[...new Set(cells.flat())].map((name) => {
        const rect = name === "." ? undefined : rectOf(cells, name);
        if (!rect) return null;
        return (
          <LaidPiece
            key={name}
            name={name}
            rect={rect}
            box={boxOf(lattice, rect)}
            drag={drag}
            held={held}
            onTake={(event, edge) => take(event, name, rect, edge)}
            onKeyDown={(event) => key(event, name)}
          />
        );
      })}
      {!drag && (
        <TabsInside lattice={lattice} onTakeOut={(tabs, name) => inTurn((laid) => takeOut(laid, tabs, name))} />
      )}
      {drag && drag.tabs === undefined && <Ghost style={boxOf(lattice, drag.rect)} />}
    </Over>
  );
}

interface LaidPieceProps {
  name: string;
  rect: CellRect;
  box: CSSProperties;
  drag: Dragging | undefined;
  held: ReturnType<typeof useDragging>["held"];
  onTake: (event: PointerEvent, edge?: EdgeName) => void;
  onKeyDown: (event: KeyboardEvent) => void;
}

/** One piece of the page: taken at its middle it moves, at an edge it is stretched. */
function LaidPiece({ name, rect, box, drag, held, onTake, onKeyDown }: LaidPieceProps) {
  const { column, columnEnd, row, rowEnd } = rect;
  const place = `columns ${column + 1} to ${columnEnd}, rows ${row + 1} to ${rowEnd}`;
  const keys = "arrows move it, Shift and arrows stretch it, Alt and an arrow put it into tabs with its neighbour";
  return (
    <Piece
      role="button"
      tabIndex={0}
      style={box}
      aria-label={`${name}: ${place}; ${keys}`}
      onKeyDown={onKeyDown}
      onPointerDown={(event) => onTake(event)}
      {...held}
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
          onPointerDown={(event) => onTake(event, edge)}
          {...held}
        />
      ))}
    </Piece>
  );
}

/** What lies in the tabs of a page, each taken out of them with a press. */
function TabsInside({ lattice, onTakeOut }: { lattice: Lattice; onTakeOut: (tabs: string, name: string) => void }) {
  return lattice.page.areas.map(({ shared, piece }) => {
    const rect = shared?.sharing === "tabs" ? rectOf(lattice.cells, piece) : undefined;
    if (!shared || !rect) return null;
    const { left, top } = boxOf(lattice, rect);
    return (
      <Inside key={piece} aria-label={`Tabs of ${piece}`} style={{ left: left + 8, top: top + 30 }}>
        {shared.items.map((item) =>
          "piece" in item ? (
            <li key={item.piece}>
              {item.piece}{" "}
              <button type="button" aria-label={`take out ${item.piece}`} onClick={() => onTakeOut(piece, item.piece)}>
                take out
              </button>
            </li>
          ) : null,
        )}
      </Inside>
    );
  });
}
