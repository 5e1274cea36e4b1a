"use client";

import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useMemo, useRef, useState } from "react";
import styled from "styled-components";
import type { KnownColumn } from "../../core/sheet/assist/knowledge";
import type { ColumnSummary } from "../../core/table/summary";
import { useDesk } from "../desk/desk-context";
import type { Sought } from "../worker/reply";
import { ColumnHead } from "./column-head";
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

/** Rows of a table at a stage, as many as there are; only those in sight are asked for. */
export function RowsGrid({
  table,
  stage,
  columns,
  summaries,
  rowCount,
  stamp,
  sought,
  marked,
  onMark,
  brushed,
  onBrush,
}: RowsGridProps) {
  const desk = useDesk();
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rowCount,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
    paddingStart: HEAD,
  });
  const widths = useMemo(() => columns.map(widthOf), [columns]);
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
  const inSight = isWide ? across.getVirtualItems().map(({ index }) => index) : columns.map((_, at) => at);
  const before = isWide ? (across.getVirtualItems()[0]?.start ?? 0) : 0;
  const page = isWide ? WIDE_PAGE : PAGE;
  const [pages, setPages] = useState<{ of: string; rows: ReadonlyMap<number, string[][]> }>({
    of: "",
    rows: new Map(),
  });
  // What was asked for the rows in sight; pages of other rows are forgotten, so they are asked for again.
  const asked = useRef({ of: "", pages: new Set<number>() });
  const seeking = sought ? JSON.stringify(sought) : "";
  const of = `${table} ${stage} ${stamp} ${page} ${seeking}`;
  const seen = virtual.getVirtualItems();
  const first = Math.floor((seen[0]?.index ?? 0) / page);
  const last = Math.floor((seen.at(-1)?.index ?? 0) / page);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is sought is part of what is asked about.
  useEffect(() => {
    const { call } = desk.builder;
    if (!call || rowCount === 0) return;
    if (asked.current.of !== of) asked.current = { of, pages: new Set() };
    for (let at = first; at <= last; at++) {
      if (asked.current.pages.has(at)) continue;
      asked.current.pages.add(at);
      void call.rows(table, stage, at * page, (at + 1) * page, sought).then(({ rows }) => {
        // An answer that comes when other rows are looked at is of no use.
        if (asked.current.of !== of) return;
        setPages((known) => {
          const kept = new Map(known.of === of ? known.rows : []);
          kept.set(at, rows);
          return { of, rows: kept };
        });
      });
    }
  }, [desk, of, first, last, page, rowCount, table, stage]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another table or step begins at its top; new rows of the same one do not move.
  useEffect(() => {
    scroller.current?.scrollTo({ top: 0 });
  }, [table, stage, seeking]);
  // A column that was marked elsewhere comes into sight.
  const newest = marked.at(-1);
  useEffect(() => {
    const box = scroller.current;
    const at = columns.findIndex(({ name }) => name === newest);
    if (!box || at < 0) return;
    const start = widths.slice(0, at).reduce((sum, width) => sum + width, 0);
    if (start < box.scrollLeft || start + (widths[at] as number) > box.scrollLeft + box.clientWidth)
      box.scrollTo({ left: Math.max(0, start - 40) });
  }, [columns, newest, widths]);
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
        <Heads role="row" aria-rowindex={1} style={{ paddingLeft: before }}>
          {inSight.map((at) => {
            const column = columns[at] as KnownColumn;
            return (
              <ColumnHead
                key={column.name}
                column={column}
                place={at + 1}
                summary={summaries.get(column.name)}
                width={widths[at] as number}
                marked={marked.includes(column.name)}
                onMark={(more) => onMark(column.name, more)}
                lit={brushed?.column === column.name ? brushed.bars : undefined}
                onBrush={(bars) => onBrush(bars && { column: column.name, bars })}
              />
            );
          })}
        </Heads>
        {seen.map(({ index, start }) => {
          const cells = pages.of === of ? pages.rows.get(Math.floor(index / page))?.[index % page] : undefined;
          return (
            <Row
              key={index}
              role="row"
              aria-rowindex={index + 2}
              style={{ transform: `translateY(${start - HEAD}px)`, paddingLeft: before }}
            >
              {inSight.map((at) => {
                const column = columns[at] as KnownColumn;
                const text = cells?.[at];
                return (
                  <Cell
                    key={column.name}
                    role="cell"
                    aria-colindex={at + 1}
                    className={`${column.kind === "text" || column.kind === "boolean" ? "" : "number"}${text === "" ? " missing" : ""}`}
                    style={{ width: widths[at] }}
                  >
                    {text === "" ? "missing" : column.image && text ? <Thumbnail address={text} /> : (text ?? "…")}
                  </Cell>
                );
              })}
            </Row>
          );
        })}
      </Grid>
    </Scroller>
  );
}
