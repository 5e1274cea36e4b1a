import { type PointerEvent, useState } from "react";
import { type CellRect, rectOf } from "../../core/page/grid-edit";
import { cellAt, type EdgeName, headAt, type Lattice, movedTo, stretched } from "./lay-lattice";

/** A piece in hand. */
export interface Dragging {
  name: string;
  edge: EdgeName | undefined;
  /** The cell in which it was taken, from its own upper left. */
  grab: { column: number; row: number };
  rect: CellRect;
  /** The piece over whose head it is held, to be in tabs with it. */
  tabs?: string | undefined;
}

/** Where the pointer is on the page under it, in the page's own pixels: the proof may be shown smaller. */
function pixelAt(event: PointerEvent) {
  const page = event.currentTarget.closest<HTMLElement>("[data-lay]");
  const over = page?.getBoundingClientRect();
  const scale = over ? over.width / (page?.offsetWidth || 1) : 1;
  return { x: (event.clientX - (over?.left ?? 0)) / scale, y: (event.clientY - (over?.top ?? 0)) / scale };
}

/**
 * Pieces of a page taken with the pointer, moved or stretched over its cells, and put down. `onDrop` is told of a
 * piece that was put down at another place than it had.
 */
export function useDragging(lattice: Lattice, onDrop: (dragged: Dragging) => void) {
  const [drag, setDrag] = useState<Dragging>();
  const take = (event: PointerEvent, name: string, rect: CellRect, edge?: EdgeName) => {
    event.preventDefault();
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    const { column, row } = cellAt(lattice, pixelAt(event));
    setDrag({ name, edge, grab: { column: column - rect.column, row: row - rect.row }, rect });
  };
  const move = (event: PointerEvent) => {
    const own = drag && rectOf(lattice.cells, drag.name);
    if (!drag || !own) return;
    const pixel = pixelAt(event);
    const { column, row } = cellAt(lattice, pixel);
    const rect = drag.edge
      ? stretched(own, drag.edge, column, row)
      : movedTo(own, column - drag.grab.column, row - drag.grab.row, lattice.cells);
    const isWhole = !drag.edge && lattice.page.areas.some(({ piece, shared }) => piece === drag.name && !shared);
    setDrag({ ...drag, rect, tabs: isWhole ? headAt(lattice, pixel, drag.name) : undefined });
  };
  const drop = () => {
    setDrag(undefined);
    const own = drag && rectOf(lattice.cells, drag.name);
    if (drag && own && (drag.tabs !== undefined || JSON.stringify(own) !== JSON.stringify(drag.rect))) onDrop(drag);
  };
  /** What a thing that was taken listens to. */
  const held = { onPointerMove: move, onPointerUp: drop, onPointerCancel: () => setDrag(undefined) };
  return { drag, take, held };
}
