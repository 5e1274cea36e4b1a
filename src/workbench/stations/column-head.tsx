"use client";

import { type PointerEvent, useRef, useState } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import { nearRound, writeChoice, writeRange } from "../../core/formula/written";
import type { KnownColumn } from "../../core/sheet/assist/knowledge";
import type { ColumnSummary } from "../../core/table/summary";
import { count, many } from "../frame/kit";
import { Distribution } from "./distribution";

const Box = styled.div`
  flex: none;
  padding: 8px 12px 5px 0;
  display: grid;
  grid-template-rows: 18px 17px 18px 16px;
  overflow: hidden;
  span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    font-size: 12px;
    color: var(--quiet);
  }
  span.lacks {
    color: var(--coral);
  }
`;

const Name = styled(Button)`
  font: 600 13px/18px var(--sans);
  color: var(--ink);
  text-align: left;
  background: none;
  border: 0;
  padding: 0;
  cursor: pointer;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  &[data-hovered] {
    color: var(--sea);
  }
  &[aria-pressed="true"] {
    color: var(--brass);
    text-decoration: underline;
    text-decoration-thickness: 2px;
    text-underline-offset: 2px;
  }
  &[data-focus-visible] {
    outline-offset: -2px;
  }
`;

const Brush = styled.div`
  cursor: ew-resize;
  touch-action: none;
  height: 18px;
`;

export const KIND_WORDS: Record<KnownColumn["kind"], string> = {
  number: "number",
  text: "text",
  boolean: "true or false",
  date: "date",
  datetime: "date, time",
  duration: "length of time",
  place: "place",
};

function headNote(column: KnownColumn, summary: ColumnSummary | undefined): { words: string; lacks: boolean } {
  if (!summary) return { words: "", lacks: false };
  if (summary.missing > 0) return { words: `${count(summary.missing)} missing`, lacks: true };
  if (column.kind === "text")
    return {
      words: summary.distinct === summary.rows ? "all different" : many(summary.distinct, "value"),
      lacks: false,
    };
  return { words: "", lacks: false };
}

/** The rule that a stretch of bars of a distribution stands for. */
export function ruleOfBars(
  { name, kind }: KnownColumn,
  summary: ColumnSummary,
  from: number,
  to: number,
): string | undefined {
  if (kind === "text" || kind === "boolean") {
    const values = summary.values.slice(from, to + 1).map(({ value }) => value);
    return values.length ? writeChoice(name, kind, values, false, false) : undefined;
  }
  const { range } = summary;
  if (!range) return undefined;
  const width = (range.most - range.least) / summary.bars.length;
  const unit = kind === "date" || kind === "datetime" ? 86400 : kind === "duration" ? 60 : 0;
  const edge = (at: number) =>
    unit && width > unit
      ? Math.round((range.least + at * width) / unit) * unit
      : nearRound(range.least + at * width, width);
  return (
    writeRange(
      name,
      kind,
      from === 0 ? undefined : edge(from),
      to === summary.bars.length - 1 ? undefined : edge(to + 1),
    ) || undefined
  );
}

interface BrushProps {
  column: KnownColumn;
  summary: ColumnSummary;
  width: number;
  /** Bars that are brushed, first and last. */
  lit: readonly [number, number] | undefined;
  onBrush: (bars: readonly [number, number] | undefined) => void;
}

/** How a column's values lie, as bars to drag over. */
function BarsToBrush({ column: { name, kind }, summary, width, lit, onBrush }: BrushProps) {
  const start = useRef<number>(undefined);
  const [dragging, setDragging] = useState(false);
  const bars = summary.bars.length;
  // Bars of texts beyond those whose values are known by name cannot be turned into a rule.
  const most = (kind === "text" || kind === "boolean" ? Math.min(bars, summary.values.length) : bars) - 1;
  if (most < 0) return <i />;
  const barAt = (event: PointerEvent<HTMLDivElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    return Math.max(0, Math.min(most, Math.floor(((event.clientX - box.left) / width) * bars)));
  };
  const take = (event: PointerEvent<HTMLDivElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    start.current = barAt(event);
    setDragging(true);
    onBrush([start.current, start.current]);
  };
  const drag = (event: PointerEvent<HTMLDivElement>) => {
    if (start.current === undefined) return;
    const at = barAt(event);
    onBrush([Math.min(start.current, at), Math.max(start.current, at)]);
  };
  const drop = () => {
    start.current = undefined;
    setDragging(false);
  };
  return (
    <Brush
      onPointerDown={take}
      onPointerMove={drag}
      onPointerUp={drop}
      onDoubleClick={() => onBrush(undefined)}
      data-dragging={dragging}
    >
      <Distribution bars={summary.bars} width={width} height={18} label={`how ${name} spreads`} lit={lit} />
    </Brush>
  );
}

interface ColumnHeadProps extends Omit<BrushProps, "summary"> {
  /** Its place among all columns, from 1. */
  place: number;
  summary: ColumnSummary | undefined;
  marked: boolean;
  /** Marks the column; with others beside it if more are asked for. */
  onMark: (more: boolean) => void;
}

/** The head of a column: its name, which is pressed to mark it, its kind, how its values lie, what is missing. */
export function ColumnHead({ column, place, summary, width, marked, onMark, lit, onBrush }: ColumnHeadProps) {
  const { words, lacks } = headNote(column, summary);
  return (
    <Box role="columnheader" aria-colindex={place} style={{ width }}>
      <Name
        aria-pressed={marked}
        aria-label={`${column.name}, ${KIND_WORDS[column.kind]}${words ? `, ${words}` : ""}`}
        onPress={(event) => onMark(event.shiftKey || event.ctrlKey || event.metaKey)}
      >
        {column.name}
      </Name>
      <span aria-hidden="true">
        {KIND_WORDS[column.kind]}
        {column.unit ? `, ${column.unit}` : ""}
      </span>
      {summary ? (
        <BarsToBrush column={column} summary={summary} width={width - 14} lit={lit} onBrush={onBrush} />
      ) : (
        <i />
      )}
      <span className={lacks ? "lacks" : ""} aria-hidden="true">
        {words}
      </span>
    </Box>
  );
}
