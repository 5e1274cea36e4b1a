"use client";

import styled from "styled-components";
import { writeName } from "../../../core/formula/words";
import type { KnownColumn } from "../../../core/sheet/assist/knowledge";
import type { ColumnSummary } from "../../../core/table/summary";
import { useDesk } from "../../desk/desk-context";
import { type Standing, takeStep } from "../../desk/shaping";
import type { TrayName } from "../../desk/trays";
import { Press, Quiet, Word } from "../../frame/kit";

const Line = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
  align-items: baseline;
  align-content: start;
  padding: 0 14px 4px 0;
  min-height: 50px;
  b {
    font-weight: 600;
    color: var(--brass);
  }
`;

interface MarkedLineProps extends Standing {
  columns: readonly KnownColumn[];
  marked: readonly string[];
  summaries: ReadonlyMap<string, ColumnSummary>;
  open: (tray: TrayName) => void;
  clear: () => void;
  /** What the brushed bars stand for, if some are brushed. */
  rule: string | undefined;
  letGo: () => void;
}

/** What can be done with the rows that are brushed, or with the columns that are marked; each a word to press. */
export function MarkedLine({ table, stage, columns, marked, summaries, open, clear, rule, letGo }: MarkedLineProps) {
  const desk = useDesk();
  const own = marked.flatMap((name) => columns.find((column) => column.name === name) ?? []);
  const first = own[0];
  if (rule !== undefined) {
    const keep = (test: string) => takeStep(desk, { table, stage }, { keep: test }) && letGo();
    return (
      <Line role="toolbar" aria-label="What to do with the rows that are brushed">
        <span>
          where <b style={{ overflowWrap: "anywhere" }}>{rule}</b>
        </span>
        <Press onPress={() => keep(rule)}>keep these</Press>
        <Press onPress={() => keep(`not (${rule})`)}>exclude these</Press>
        <Word onPress={letGo}>let go</Word>
      </Line>
    );
  }
  if (!first) {
    return (
      <Line>
        <Quiet>Press a column's name to work on it, with shift a second one. Drag over its bars to find rows.</Quiet>
      </Line>
    );
  }
  const take = (step: Parameters<typeof takeStep>[2]) => takeStep(desk, { table, stage }, step) && clear();
  const one = own.length === 1;
  const categories = first.kind === "text" || first.kind === "boolean";
  const numbers = own.filter(({ kind }) => kind === "number" || kind === "duration");
  return (
    <Line role="toolbar" aria-label={`What to do with ${marked.join(", ")}`}>
      <b>{marked.length > 3 ? `${marked.length} columns` : marked.join(", ")}</b>
      {one && (
        <>
          <Press onPress={() => open("rename")}>rename</Press>
          <Press onPress={() => open("kind")}>kind</Press>
          <Press onPress={() => open("values")}>keep or exclude</Press>
          {first.kind === "text" && <Press onPress={() => open("frequent")}>only frequent</Press>}
          {(summaries.get(first.name)?.missing ?? 0) > 0 && <Press onPress={() => open("fill")}>fill missing</Press>}
          <Press onPress={() => take({ sort: [writeName(first.name)] })}>sort up</Press>
          <Press onPress={() => take({ sort: [`-${writeName(first.name)}`] })}>sort down</Press>
        </>
      )}
      {own.length === 2 && numbers.length === 2 && (
        <>
          <Press onPress={() => take({ add: { [`${own[0]?.name}_per_${own[1]?.name}`]: ratioOf(own) } })}>ratio</Press>
          <Press
            onPress={() =>
              take({
                add: {
                  [`${own[0]?.name}_less_${own[1]?.name}`]: `${writeName(own[0]?.name ?? "")} - ${writeName(own[1]?.name ?? "")}`,
                },
              })
            }
          >
            difference
          </Press>
        </>
      )}
      <Press onPress={() => open("column")}>new column</Press>
      <Press onPress={() => take({ drop: [...marked] })}>drop</Press>
      {!one && <Press onPress={() => take({ only: [...marked] })}>only these</Press>}
      <Press onPress={() => open("unique")}>drop duplicates</Press>
      <Press onPress={() => open("group")}>group</Press>
      {own.length > 1 && <Press onPress={() => open("long")}>make long</Press>}
      {one && categories && <Press onPress={() => open("wide")}>make wide</Press>}
      {one && <Press onPress={() => open("words")}>words</Press>}
      {one && categories && <Press onPress={() => open("colours")}>colours</Press>}
      <Word onPress={clear}>clear</Word>
    </Line>
  );
}

/** A number for a length of time is per hour; lengths themselves divide to a plain number. */
function ratioOf([above, below]: readonly KnownColumn[]): string {
  const [a, b] = [writeName(above?.name ?? ""), writeName(below?.name ?? "")];
  return above?.kind === "number" && below?.kind === "duration" ? `${a} / hours(${b})` : `${a} / ${b}`;
}
