"use client";

import { useState } from "react";
import styled from "styled-components";
import { writer } from "../../core/formula/format";
import type { KnownColumn } from "../../core/sheet/assist/knowledge";
import type { ColumnSummary } from "../../core/table/summary";
import { count, Word } from "../frame/kit";
import { KIND_WORDS } from "./column-head";
import { Distribution } from "./distribution";

const Scroller = styled.div`
  overflow: auto;
  height: 100%;
  padding-right: 14px;
  table {
    border-collapse: collapse;
    width: 100%;
  }
  th,
  td {
    text-align: left;
    padding: 4px 14px 4px 0;
    border-bottom: 1px solid var(--rule);
    white-space: nowrap;
    vertical-align: middle;
  }
  thead th {
    position: sticky;
    top: 0;
    background: var(--ground);
    font-weight: 400;
    color: var(--quiet);
    border-bottom: 1px solid var(--ink);
  }
  tbody th {
    font-weight: 600;
  }
  td.number,
  th.number {
    text-align: right;
  }
  td.lacks {
    color: var(--coral);
  }
  td.wide {
    color: var(--quiet);
    max-width: 420px;
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;

/** So many columns are summed up at once; a table of thousands would keep the page waiting. */
const AT_ONCE = 150;

/** Every column in a line: what it holds, what is missing, how its values lie. */
export function ColumnSummaries({
  columns,
  summaries,
}: {
  columns: readonly KnownColumn[];
  summaries: ReadonlyMap<string, ColumnSummary>;
}) {
  const [most, setMost] = useState(AT_ONCE);
  const left = columns.length - most;
  return (
    <Scroller tabIndex={0} role="region" aria-label="All columns summed up">
      <table>
        <thead>
          <tr>
            {["column", "kind", "spread"].map((head) => (
              <th key={head} scope="col">
                {head}
              </th>
            ))}
            {["missing", "different", "least", "quarters", "most", "mean"].map((head) => (
              <th key={head} scope="col" className="number">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {columns.slice(0, most).map((column) => (
            <SummaryRow key={column.name} column={column} summary={summaries.get(column.name)} />
          ))}
        </tbody>
      </table>
      {left > 0 && (
        <Word
          onPress={() => setMost(most + AT_ONCE)}
        >{`${count(Math.min(left, AT_ONCE))} more of ${count(columns.length)} columns`}</Word>
      )}
    </Scroller>
  );
}

function SummaryRow({ column, summary }: { column: KnownColumn; summary: ColumnSummary | undefined }) {
  const range = summary?.range;
  const moment = column.kind === "date" || column.kind === "datetime";
  const write =
    column.kind === "text" || column.kind === "boolean" || column.kind === "place"
      ? String
      : writer(moment ? "date" : column.kind, undefined);
  // A mean falls between days; further places of a number say nothing here.
  const short = (value: number) =>
    write(
      moment
        ? Math.floor(value / 86400) * 86400
        : column.kind === "number"
          ? Number(value.toPrecision(5))
          : Math.round(value),
    );
  const figures = range
    ? [short(range.least), range.quartiles.map(short).join(" · "), short(range.most), short(range.mean)]
    : ["", "", "", ""];
  return (
    <tr>
      <th scope="row">{column.name}</th>
      <td>
        {KIND_WORDS[column.kind]}
        {column.unit ? `, ${column.unit}` : ""}
      </td>
      <td>
        {summary?.bars.length ? (
          <Distribution bars={summary.bars} width={96} height={18} label={`how ${column.name} spreads`} />
        ) : (
          ""
        )}
      </td>
      <td className={`number${summary?.missing ? " lacks" : ""}`}>{summary ? count(summary.missing) : "…"}</td>
      <td className="number">{summary ? count(summary.distinct) : ""}</td>
      {summary?.values.length ? (
        <td className="wide" colSpan={4}>
          {summary.values
            .slice(0, 5)
            .map(({ value, rows }) => `${value} ${count(rows)}`)
            .join(" · ")}
        </td>
      ) : (
        figures.map((figure, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the figures stand in a fixed order.
          <td key={at} className="number">
            {figure}
          </td>
        ))
      )}
    </tr>
  );
}
