"use client";

import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useMemo, useRef, useState } from "react";
import styled from "styled-components";
import type { KnownColumn } from "../../core/sheet/knowledge";
import type { Sought } from "../worker/reply";
import type { ColumnSummary } from "../../core/table/summary";
import { useDesk } from "../desk/desk-context";
import { ColumnHead } from "./column-head";
import { Thumbnail } from "./thumbnail";

const ROW = 26;
const PAGE = 200;
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

const widthOf = (column: KnownColumn) => Math.max(column.kind === "datetime" ? 140 : column.kind === "text" ? 118 : 100, Math.min(200, column.name.length * 8 + 18, 200));

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
export function RowsGrid({ table, stage, columns, summaries, rowCount, stamp, sought, marked, onMark, brushed, onBrush }: RowsGridProps) {
  const desk = useDesk();
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({ count: rowCount, getScrollElement: () => scroller.current, estimateSize: () => ROW, overscan: 12, paddingStart: HEAD });
  const [pages, setPages] = useState<{ of: string; rows: ReadonlyMap<number, string[][]> }>({ of: "", rows: new Map() });
  // What was asked for the rows in sight; pages of other rows are forgotten, so they are asked for again.
  const asked = useRef({ of: "", pages: new Set<number>() });
  const seeking = sought ? JSON.stringify(sought) : "";
  const of = `${table} ${stage} ${stamp} ${seeking}`;
  const seen = virtual.getVirtualItems();
  const first = Math.floor((seen[0]?.index ?? 0) / PAGE);
  const last = Math.floor((seen.at(-1)?.index ?? 0) / PAGE);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is sought is part of what is asked about.
  useEffect(() => {
    const { call } = desk.builder;
    if (!call || rowCount === 0) return;
    if (asked.current.of !== of) asked.current = { of, pages: new Set() };
    for (let page = first; page <= last; page++) {
      if (asked.current.pages.has(page)) continue;
      asked.current.pages.add(page);
      void call.rows(table, stage, page * PAGE, (page + 1) * PAGE, sought).then(({ rows }) => {
        // An answer that comes when other rows are looked at is of no use.
        if (asked.current.of !== of) return;
        setPages((before) => {
          const kept = new Map(before.of === of ? before.rows : []);
          kept.set(page, rows);
          return { of, rows: kept };
        });
      });
    }
  }, [desk, of, first, last, rowCount, table, stage]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another table or step begins at its top; new rows of the same one do not move.
  useEffect(() => {
    scroller.current?.scrollTo({ top: 0 });
  }, [table, stage, seeking]);
  const widths = useMemo(() => columns.map(widthOf), [columns]);
  return (
    <Scroller ref={scroller} role="table" aria-label={`Rows of ${table}`} aria-rowcount={rowCount + 1} aria-colcount={columns.length} tabIndex={0}>
      <Grid style={{ height: virtual.getTotalSize(), width: widths.reduce((sum, width) => sum + width, 16) }}>
        <Heads role="row" aria-rowindex={1}>
          {columns.map((column, at) => (
            <ColumnHead
              key={column.name}
              column={column}
              summary={summaries.get(column.name)}
              width={widths[at] as number}
              marked={marked.includes(column.name)}
              onMark={(more) => onMark(column.name, more)}
              lit={brushed?.column === column.name ? brushed.bars : undefined}
              onBrush={(bars) => onBrush(bars && { column: column.name, bars })}
            />
          ))}
        </Heads>
        {seen.map(({ index, start }) => {
          const cells = pages.of === of ? pages.rows.get(Math.floor(index / PAGE))?.[index % PAGE] : undefined;
          return (
            <Row key={index} role="row" aria-rowindex={index + 2} style={{ transform: `translateY(${start - HEAD}px)` }}>
              {columns.map((column, at) => {
                const text = cells?.[at];
                return (
                  <Cell key={column.name} role="cell" className={`${column.kind === "text" || column.kind === "boolean" ? "" : "number"}${text === "" ? " missing" : ""}`} style={{ width: widths[at] }}>
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
