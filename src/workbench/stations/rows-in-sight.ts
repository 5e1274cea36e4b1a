"use client";

import { useEffect, useRef, useState } from "react";
import { useDesk } from "../desk/desk-context";
import type { Sought } from "../worker/reply";

/** Which rows of which table are looked at. */
interface LookedAt {
  table: string;
  stage: number;
  /** Stays while the rows stay the same. */
  stamp: number;
  rowCount: number;
  /** Only these rows, if some are sought. */
  sought: Sought | undefined;
}

/**
 * The cells of rows in sight, asked for page by page (`size` rows each). Gives the way to the cells of a row, which
 * are not there until they have come.
 */
export function useRowsInSight(
  { table, stage, stamp, rowCount, sought }: LookedAt,
  size: number,
  firstRow: number,
  lastRow: number,
): (row: number) => string[] | undefined {
  const desk = useDesk();
  const [pages, setPages] = useState<{ of: string; rows: ReadonlyMap<number, string[][]> }>({
    of: "",
    rows: new Map(),
  });
  // What was asked for the rows in sight; pages of other rows are forgotten, so they are asked for again.
  const asked = useRef({ of: "", pages: new Set<number>() });
  const of = `${table} ${stage} ${stamp} ${size} ${sought ? JSON.stringify(sought) : ""}`;
  const [first, last] = [Math.floor(firstRow / size), Math.floor(lastRow / size)];
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is sought is part of what is asked about.
  useEffect(() => {
    const { call } = desk.builder;
    if (!call || rowCount === 0) return;
    if (asked.current.of !== of) asked.current = { of, pages: new Set() };
    for (let at = first; at <= last; at++) {
      if (asked.current.pages.has(at)) continue;
      asked.current.pages.add(at);
      void call.rows(table, stage, at * size, (at + 1) * size, sought).then(({ rows }) => {
        // An answer that comes when other rows are looked at is of no use.
        if (asked.current.of !== of) return;
        setPages((known) => {
          const kept = new Map(known.of === of ? known.rows : []);
          kept.set(at, rows);
          return { of, rows: kept };
        });
      });
    }
  }, [desk, of, first, last, size, rowCount, table, stage]);
  return (row) => (pages.of === of ? pages.rows.get(Math.floor(row / size))?.[row % size] : undefined);
}
