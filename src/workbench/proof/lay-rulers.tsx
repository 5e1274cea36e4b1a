"use client";

import { type KeyboardEvent, type PointerEvent, type ReactNode, useState } from "react";
import styled from "styled-components";
import type { TextEdit } from "../../core/finding/finding";
import { type Cells, insertTrack, removeTrack } from "../../core/page/grid-edit";
import { resizedTracks } from "../../core/page/tracks-edit";
import { setTracks } from "../../core/sheet/edit/page-edit";
import { useDesk } from "../desk/desk-context";
import type { InTurn, Laid } from "./in-turn";
import type { Lattice } from "./lay-lattice";

export const Ruler = styled.div`
  position: absolute;
  display: flex;
  align-items: center;
  justify-content: center;
  gap: 4px;
  font-size: 12px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  input {
    width: 7ch;
    border: 0;
    background: none;
    font: inherit;
    color: var(--ink);
    text-align: center;
  }
  button {
    font: inherit;
    border: 0;
    background: none;
    color: var(--quiet);
    cursor: pointer;
    padding: 0 3px;
  }
  button:hover {
    color: var(--sea);
  }
`;

/** The line behind a track: dragged, it makes the track larger or smaller. */
const Line = styled.div`
  position: absolute;
  z-index: 1;
  touch-action: none;
  &::after {
    content: "";
    position: absolute;
    inset: 0;
    margin: auto;
    background: var(--sea);
  }
  &[aria-orientation="vertical"] {
    cursor: ew-resize;
    &::after {
      width: 2px;
    }
  }
  &[aria-orientation="horizontal"] {
    cursor: ns-resize;
    &::after {
      height: 2px;
    }
  }
  &:hover::after,
  &:focus-visible::after {
    background: var(--brass);
  }
`;

/** How far one press of an arrow moves a line, in pixels. */
const A_PRESS = 8;

interface TrackLineProps {
  along: "column" | "row";
  /** The track before it, from 0. */
  at: number;
  style: object;
  /** Said of the track before it. */
  size: string;
  onMove: (by: number, isRepeat?: boolean) => void;
}

function TrackLine({ along, at, style, size, onMove }: TrackLineProps) {
  const [begun, setBegun] = useState<{ from: number; scale: number }>();
  const place = (event: PointerEvent) => (along === "column" ? event.clientX : event.clientY);
  const take = (event: PointerEvent) => {
    event.preventDefault();
    event.currentTarget.setPointerCapture(event.pointerId);
    const over = event.currentTarget.closest<HTMLElement>("[data-lay]");
    setBegun({ from: place(event), scale: (over?.getBoundingClientRect().width ?? 1) / (over?.offsetWidth || 1) });
  };
  const drop = (event: PointerEvent) => {
    if (begun) onMove((place(event) - begun.from) / begun.scale);
    setBegun(undefined);
  };
  const key = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key];
    if (!by) return;
    event.preventDefault();
    onMove(by * A_PRESS, event.repeat);
  };
  return (
    <Line
      role="separator"
      tabIndex={0}
      aria-orientation={along === "column" ? "vertical" : "horizontal"}
      aria-label={`Line behind ${along} ${at + 1}`}
      aria-valuenow={at + 1}
      aria-valuetext={size}
      style={style}
      onKeyDown={key}
      onPointerDown={take}
      onPointerUp={drop}
      onPointerCancel={() => setBegun(undefined)}
    />
  );
}

interface RulersProps {
  lattice: Lattice;
  write: (laid: Laid, next: Cells | undefined, ...more: (TextEdit[] | undefined)[]) => void;
  inTurn: InTurn;
}

const SIZES = { column: "columns", row: "rows" } as const;
type Along = keyof typeof SIZES;

/** What is written into the sheet when tracks become more, fewer, larger or smaller. */
function useTracks({ write, inTurn }: Pick<RulersProps, "write" | "inTurn">) {
  const desk = useDesk();
  const writeSizes = (laid: Laid, along: Along, sizes: readonly string[]) =>
    setTracks(desk.state.get().text, laid.tracks.page, SIZES[along], sizes);
  const change = (along: Along, at: number, insert: boolean) =>
    inTurn((laid) => {
      const next = insert ? insertTrack(laid.cells, along, at) : removeTrack(laid.cells, along, at);
      const sizes = [...laid.page[SIZES[along]]];
      if (insert) sizes.splice(at, 0, laid.page.height === "content" && along === "row" ? "320px" : "1fr");
      else sizes.splice(at, 1);
      write(laid, next, next && writeSizes(laid, along, sizes));
    });
  const type = (along: Along, at: number, typed: string) => {
    const size = typed.trim();
    inTurn((laid) => {
      // A field that was left with Enter is left once more when it loses the focus.
      if (!size || size === laid.page[SIZES[along]][at]) return;
      const sizes = laid.page[SIZES[along]].map((own, place) => (place === at ? size : own));
      desk.edit(writeSizes(laid, along, sizes) ?? []);
    });
  };
  const move = (along: Along, at: number, by: number, isRepeat?: boolean) =>
    inTurn((laid) => {
      const own = laid.page[SIZES[along]];
      const sizes = resizedTracks(own, laid.tracks[SIZES[along]], at, by);
      if (sizes !== own) desk.edit(writeSizes(laid, along, sizes) ?? []);
    }, isRepeat);
  return { change, type, move };
}

interface TrackRulerProps extends Pick<ReturnType<typeof useTracks>, "change" | "type"> {
  along: Along;
  at: number;
  size: string;
  isLast: boolean;
  style: object;
}

/** The size of one track, typed; one more before it, one less, and behind the last one more. */
function TrackRuler({ along, at, size, isLast, style, change, type }: TrackRulerProps) {
  return (
    <Ruler style={style}>
      <button
        type="button"
        title={`a ${along} more before this`}
        aria-label={`A ${along} more before ${along} ${at + 1}`}
        onClick={() => change(along, at, true)}
      >
        +
      </button>
      <input
        key={size}
        defaultValue={size}
        aria-label={`Size of ${along} ${at + 1}`}
        onBlur={(event) => type(along, at, event.target.value)}
        onKeyDown={(event) => event.key === "Enter" && type(along, at, event.currentTarget.value)}
      />
      <button
        type="button"
        title={`this ${along} less`}
        aria-label={`Without ${along} ${at + 1}`}
        onClick={() => change(along, at, false)}
      >
        ×
      </button>
      {isLast && (
        <button
          type="button"
          title={`a ${along} more after this`}
          aria-label={`A ${along} more after ${along} ${at + 1}`}
          onClick={() => change(along, at + 1, true)}
        >
          +
        </button>
      )}
    </Ruler>
  );
}

/** Where the ruler of a track stands, and the line behind it, in pixels of the page. */
const PLACES = {
  column: {
    ruler: ({ tracks, xs }: Lattice, at: number) => ({
      left: xs[at],
      top: Math.max(0, tracks.top - 24),
      width: tracks.columns[at],
      height: 20,
    }),
    line: ({ tracks, xs }: Lattice, at: number) => ({
      left: (xs[at] ?? 0) + (tracks.columns[at] ?? 0),
      top: Math.max(0, tracks.top - 24),
      width: tracks.gap.x,
      height: 20,
    }),
  },
  row: {
    ruler: ({ tracks, ys }: Lattice, at: number) => ({
      left: Math.max(0, tracks.left - 108),
      top: ys[at],
      width: 102,
      height: Math.min(22, tracks.rows[at] ?? 0),
    }),
    line: ({ tracks, ys }: Lattice, at: number) => ({
      left: Math.max(0, tracks.left - 108),
      top: (ys[at] ?? 0) + (tracks.rows[at] ?? 0) - 2,
      width: 102,
      height: Math.max(10, tracks.gap.y),
    }),
  },
} as const;

/** The sizes of columns over the grid and of rows at its left: typed, one more, one less, or their lines dragged. */
export function Rulers({ lattice, write, inTurn }: RulersProps) {
  const { change, type, move } = useTracks({ write, inTurn });
  const { page, tracks } = lattice;
  const all: readonly Along[] = ["column", "row"];
  /** The line behind the last track moves only where the page is as high as its content. */
  const hasLine = (along: Along, at: number) =>
    at < tracks[SIZES[along]].length - 1 || (along === "row" && page.height === "content");
  const each = (draw: (along: Along, at: number) => ReactNode) =>
    all.flatMap((along) => tracks[SIZES[along]].map((_, at) => draw(along, at)));
  return (
    <>
      {each((along, at) => (
        <TrackRuler
          key={`${along} ${at}`}
          along={along}
          at={at}
          size={page[SIZES[along]][at] ?? ""}
          isLast={at === page[SIZES[along]].length - 1}
          style={PLACES[along].ruler(lattice, at)}
          change={change}
          type={type}
        />
      ))}
      {each(
        (along, at) =>
          hasLine(along, at) && (
            <TrackLine
              key={`${along} line ${at}`}
              along={along}
              at={at}
              style={PLACES[along].line(lattice, at)}
              size={page[SIZES[along]][at] ?? ""}
              onMove={(by, isRepeat) => move(along, at, by, isRepeat)}
            />
          ),
      )}
    </>
  );
}
