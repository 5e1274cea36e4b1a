"use client";

import { useVirtualizer } from "@tanstack/react-virtual";
import { type RefObject, useEffect, useMemo, useRef } from "react";
import styled from "styled-components";
import type { KnownColumn } from "../../core/sheet/assist/knowledge";
import type { ColumnSummary } from "../../core/table/summary";
import type { Sought } from "../worker/reply";
import { ColumnHead } from "./column-head";
import { useRowsInSight } from "./rows-in-sight";
import { Thumbnail } from "./thumbnail";

const ROW = 26;
/** Tables with more columns than this draw only those in sight, and ask for fewer rows at once. */
const MANY_COLUMNS = 60;
const PAGE = 200;
const WIDE_PAGE = 40;
/** Height of the heads, which stand in the flow above the rows. */
const HEAD = 84;

const Scroller = styled.div`
  overflow: auto;
  height: 100%;
  position: relative;
  &:focus-visible {
    outline-offset: -2px;
  }
`;

const Grid = styled.div`
  position: relative;
  min-width: 100%;
`;

const Heads = styled.div`
  position: sticky;
  top: 0;
  z-index: 1;
  display: flex;
  background: var(--ground);
  border-bottom: 1px solid var(--ink);
  width: max-content;
  min-width: 100%;
`;

const Row = styled.div`
  position: absolute;
  left: 0;
  display: flex;
  width: max-content;
  min-width: 100%;
  height: ${ROW}px;
  border-bottom: 1px solid var(--rule);
`;

const Cell = styled.div`
  flex: none;
  padding: 4px 12px 0 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  &.number {
    text-align: right;
  }
  &.missing {
    color: var(--coral);
  }
`;

const widthOf = (column: KnownColumn) =>
  Math.max(
    column.kind === "datetime" ? 140 : column.kind === "text" ? 118 : 100,
    Math.min(200, column.name.length * 8 + 18, 200),
  );

/** The bars of one head that are brushed. */
export interface BrushedBars {
  column: string;
  bars: readonly [number, number];
}

interface RowsGridProps {
  table: string;
  stage: number;
  /** Stays while the rows stay the same. */
  stamp: number;
  columns: readonly KnownColumn[];
  summaries: ReadonlyMap<string, ColumnSummary>;
  rowCount: number;
  /** Only these rows are shown, if some are sought. */
  sought: Sought | undefined;
  marked: readonly string[];
  onMark: (column: string, more: boolean) => void;
  brushed: BrushedBars | undefined;
  onBrush: (brushed: BrushedBars | undefined) => void;
}

/** The columns that are drawn, and how far from the left they begin: of many only those in sight. */
function useColumnsInSight(
  scroller: RefObject<HTMLDivElement | null>,
  columns: readonly KnownColumn[],
  widths: readonly number[],
) {
  const isWide = columns.length > MANY_COLUMNS;
  const across = useVirtualizer({
    horizontal: true,
    enabled: isWide,
    count: columns.length,
    getScrollElement: () => scroller.current,
    estimateSize: (at) => widths[at] as number,
    overscan: 4,
  });
  // Columns may be other ones of other widths, of which the virtualizer is not told by itself.
  // biome-ignore lint/correctness/useExhaustiveDependencies: measured anew when the widths change.
  useEffect(() => across.measure(), [widths]);
  if (!isWide) return { isWide, inSight: columns.map((_, at) => at), before: 0 };
  const items = across.getVirtualItems();
  return { isWide, inSight: items.map(({ index }) => index), before: items[0]?.start ?? 0 };
}

/** Brings the column that was marked last into sight, which may have been done elsewhere. */
function useNewestInSight(
  scroller: RefObject<HTMLDivElement | null>,
  columns: readonly KnownColumn[],
  widths: readonly number[],
  newest: string | undefined,
) {
  useEffect(() => {
    const box = scroller.current;
    const at = columns.findIndex(({ name }) => name === newest);
    if (!box || at < 0) return;
    const start = widths.slice(0, at).reduce((sum, width) => sum + width, 0);
    if (start < box.scrollLeft || start + (widths[at] as number) > box.scrollLeft + box.clientWidth)
      box.scrollTo({ left: Math.max(0, start - 40) });
  }, [scroller, columns, newest, widths]);
}

/** Rows of a table at a stage, as many as there are; only those in sight are asked for. */
export function RowsGrid(props: RowsGridProps) {
  const { table, stage, columns, summaries, rowCount, sought, marked, onMark, brushed, onBrush } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rowCount,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
    paddingStart: HEAD,
  });
  const widths = useMemo(() => columns.map(widthOf), [columns]);
  const { isWide, inSight, before } = useColumnsInSight(scroller, columns, widths);
  useNewestInSight(scroller, columns, widths, marked.at(-1));
  const seen = virtual.getVirtualItems();
  const cellsOf = useRowsInSight(props, isWide ? WIDE_PAGE : PAGE, seen[0]?.index ?? 0, seen.at(-1)?.index ?? 0);
  const seeking = sought ? JSON.stringify(sought) : "";
  // biome-ignore lint/correctness/useExhaustiveDependencies: another table or step begins at its top; new rows of the same one do not move.
  useEffect(() => {
    scroller.current?.scrollTo({ top: 0 });
  }, [table, stage, seeking]);
  const shown = inSight.map(
    (at): ShownColumn => ({ at, column: columns[at] as KnownColumn, width: widths[at] as number }),
  );
  return (
    <Scroller
      ref={scroller}
      role="table"
      aria-label={`Rows of ${table}`}
      aria-rowcount={rowCount + 1}
      aria-colcount={columns.length}
      tabIndex={0}
    >
      <Grid style={{ height: virtual.getTotalSize(), width: widths.reduce((sum, width) => sum + width, 16) }}>
        <HeadRow {...{ shown, before, summaries, marked, onMark, brushed, onBrush }} />
        {seen.map(({ index, start }) => (
          <Row
            key={index}
            role="row"
            aria-rowindex={index + 2}
            style={{ transform: `translateY(${start - HEAD}px)`, paddingLeft: before }}
          >
            {shown.map(({ at, column, width }) => (
              <RowCell key={column.name} at={at} column={column} width={width} text={cellsOf(index)?.[at]} />
            ))}
          </Row>
        ))}
      </Grid>
    </Scroller>
  );
}

/** A column that is drawn. */
interface ShownColumn {
  /** Its place, from 0. */
  at: number;
  column: KnownColumn;
  width: number;
}

interface HeadRowProps extends Pick<RowsGridProps, "summaries" | "marked" | "onMark" | "brushed" | "onBrush"> {
  shown: readonly ShownColumn[];
  /** How far from the left they begin, in pixels. */
  before: number;
}

function HeadRow({ shown, before, summaries, marked, onMark, brushed, onBrush }: HeadRowProps) {
  return (
    <Heads role="row" aria-rowindex={1} style={{ paddingLeft: before }}>
      {shown.map(({ at, column, width }) => (
        <ColumnHead
          key={column.name}
          column={column}
          place={at + 1}
          summary={summaries.get(column.name)}
          width={width}
          marked={marked.includes(column.name)}
          onMark={(more) => onMark(column.name, more)}
          lit={brushed?.column === column.name ? brushed.bars : undefined}
          onBrush={(bars) => onBrush(bars && { column: column.name, bars })}
        />
      ))}
    </Heads>
  );
}

interface RowCellProps extends ShownColumn {
  /** Not there before it has been asked for. */
  text: string | undefined;
}

function RowCell({ at, column: { kind, image }, width, text }: RowCellProps) {
  const isNumber = kind !== "text" && kind !== "boolean";
  return (
    <Cell
      role="cell"
      aria-colindex={at + 1}
      className={`${isNumber ? "number" : ""}${text === "" ? " missing" : ""}`}
      style={{ width }}
    >
      {text === "" ? "missing" : image && text ? <Thumbnail address={text} /> : (text ?? "…")}
    </Cell>
  );
}
