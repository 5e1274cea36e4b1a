"use client";

import styled from "styled-components";
import type { PackingLine } from "../../core/dashboard/contents";
import { shownTable } from "../../core/plan/shown-table";
import { count, many, Quiet, StationTitle, weight } from "../frame/kit";

const Packed = styled.section`
  overflow: auto;
  padding: 10px 20px;
  min-height: 0;
  table {
    border-collapse: collapse;
    width: 100%;
    margin-top: 8px;
  }
  th,
  td {
    text-align: left;
    font-weight: 400;
    padding: 4px 12px 4px 0;
    border-bottom: 1px solid var(--rule);
    vertical-align: baseline;
  }
  thead th {
    color: var(--quiet);
    border-bottom-color: var(--ink);
    position: sticky;
    top: -10px;
    background: var(--ground);
  }
  .number {
    text-align: right;
    white-space: nowrap;
  }
  tbody th {
    font-weight: 600;
  }
  .noted > * {
    border-bottom: 0;
  }
`;

const Bar = styled.span`
  display: inline-block;
  height: 8px;
  background: var(--bars);
  vertical-align: baseline;
`;

/** A column that leaves; below it, where groups leave in place of rows, how small the smallest is. */
function PackedColumn({ line, heaviest }: { line: PackingLine; heaviest: number }) {
  const { smallest } = line;
  return (
    <>
      <tr className={smallest ? "noted" : undefined}>
        <th scope="row">{line.column}</th>
        <td>{shownTable(line.table).replaceAll("/", ", ")}</td>
        <td className="number">{count(line.rows)}</td>
        <td>{line.kind}</td>
        <td className="number">{weight(line.bytes)}</td>
        <td>
          <Bar style={{ width: Math.max(1, (line.bytes / heaviest) * 90) }} />
        </td>
        <td>
          <Quiet>{line.neededBy.join(", ")}</Quiet>
        </td>
      </tr>
      {smallest && (
        <tr>
          <td />
          <td colSpan={6}>
            groups in place of rows; the smallest is {smallest.group || "the only one"} with{" "}
            {many(smallest.rows, "row")}
          </td>
        </tr>
      )}
    </>
  );
}

const HEADS = (
  <tr>
    <th scope="col">column</th>
    <th scope="col">table</th>
    <th scope="col" className="number">
      rows
    </th>
    <th scope="col">kind</th>
    <th scope="col" className="number">
      bytes
    </th>
    <th scope="col">
      <span className="sr">share</span>
    </th>
    <th scope="col">needed by</th>
  </tr>
);

/** The packing list: every column that leaves, the heaviest first, and the page itself. */
export function PackingTable({ lines, page }: { lines: readonly PackingLine[]; page: number | undefined }) {
  const heaviest = lines[0]?.bytes ?? 1;
  return (
    <Packed aria-labelledby="packed">
      <StationTitle id="packed">What is in the file</StationTitle>
      <table>
        <thead>{HEADS}</thead>
        <tbody>
          {lines.map((line) => (
            <PackedColumn key={`${line.table} ${line.column}`} line={line} heaviest={heaviest} />
          ))}
          <tr>
            <th scope="row">the page itself</th>
            <td>
              <Quiet>pictures, viewer, type</Quiet>
            </td>
            <td />
            <td />
            <td className="number">{page === undefined ? "" : weight(page)}</td>
            <td />
            <td>
              <Quiet>every dashboard</Quiet>
            </td>
          </tr>
        </tbody>
      </table>
    </Packed>
  );
}
