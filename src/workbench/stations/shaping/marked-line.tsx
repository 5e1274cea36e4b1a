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

type Step = Parameters<typeof takeStep>[2];

interface BrushedLineProps {
  /** What the brushed bars stand for. */
  rule: string;
  take: (step: Step) => void;
  letGo: () => void;
}

function BrushedLine({ rule, take, letGo }: BrushedLineProps) {
  return (
    <Line role="toolbar" aria-label="What to do with the rows that are brushed">
      <span>
        where <b style={{ overflowWrap: "anywhere" }}>{rule}</b>
      </span>
      <Press onPress={() => take({ keep: rule })}>keep these</Press>
      <Press onPress={() => take({ keep: `not (${rule})` })}>exclude these</Press>
      <Word onPress={letGo}>let go</Word>
    </Line>
  );
}

interface ColumnWordsProps {
  column: KnownColumn;
  summary: ColumnSummary | undefined;
  open: (tray: TrayName) => void;
  take: (step: Step) => void;
}

/** What can be done with one column. */
function OneColumn({ column: { name, kind }, summary, open, take }: ColumnWordsProps) {
  return (
    <>
      <Press onPress={() => open("rename")}>rename</Press>
      <Press onPress={() => open("kind")}>kind</Press>
      <Press onPress={() => open("values")}>keep or exclude</Press>
      {kind === "text" && <Press onPress={() => open("frequent")}>only frequent</Press>}
      {(summary?.missing ?? 0) > 0 && <Press onPress={() => open("fill")}>fill missing</Press>}
      <Press onPress={() => take({ sort: [writeName(name)] })}>sort up</Press>
      <Press onPress={() => take({ sort: [`-${writeName(name)}`] })}>sort down</Press>
    </>
  );
}

/** What two columns of numbers can be reckoned to. */
function TwoNumbers({ first, second, take }: { first: KnownColumn; second: KnownColumn; take: (step: Step) => void }) {
  const difference = `${writeName(first.name)} - ${writeName(second.name)}`;
  return (
    <>
      <Press onPress={() => take({ add: { [`${first.name}_per_${second.name}`]: ratioOf(first, second) } })}>
        ratio
      </Press>
      <Press onPress={() => take({ add: { [`${first.name}_less_${second.name}`]: difference } })}>difference</Press>
    </>
  );
}

const isMeasure = ({ kind }: KnownColumn) => kind === "number" || kind === "duration";

/** What can be done with the rows that are brushed, or with the columns that are marked; each a word to press. */
export function MarkedLine({ table, stage, columns, marked, summaries, open, clear, rule, letGo }: MarkedLineProps) {
  const desk = useDesk();
  const take = (then: () => void) => (step: Step) => takeStep(desk, { table, stage }, step) && then();
  if (rule !== undefined) return <BrushedLine rule={rule} take={take(letGo)} letGo={letGo} />;
  const own = marked.flatMap((name) => columns.find((column) => column.name === name) ?? []);
  const [first, second] = own;
  if (!first) {
    return (
      <Line>
        <Quiet>Press a column's name to work on it, with shift a second one. Drag over its bars to find rows.</Quiet>
      </Line>
    );
  }
  const done = take(clear);
  const one = own.length === 1;
  const categories = first.kind === "text" || first.kind === "boolean";
  return (
    <Line role="toolbar" aria-label={`What to do with ${marked.join(", ")}`}>
      <b>{marked.length > 3 ? `${marked.length} columns` : marked.join(", ")}</b>
      {one && <OneColumn column={first} summary={summaries.get(first.name)} open={open} take={done} />}
      {second && own.length === 2 && own.every(isMeasure) && <TwoNumbers first={first} second={second} take={done} />}
      <Press onPress={() => open("column")}>new column</Press>
      <Press onPress={() => done({ drop: [...marked] })}>drop</Press>
      {!one && <Press onPress={() => done({ only: [...marked] })}>only these</Press>}
      <Press onPress={() => open("unique")}>drop duplicates</Press>
      <Press onPress={() => open("group")}>group</Press>
      {!one && <Press onPress={() => open("long")}>make long</Press>}
      {one && categories && <Press onPress={() => open("wide")}>make wide</Press>}
      {one && <Press onPress={() => open("words")}>words</Press>}
      {one && categories && <Press onPress={() => open("colours")}>colours</Press>}
      <Word onPress={clear}>clear</Word>
    </Line>
  );
}

/** A number for a length of time is per hour; lengths themselves divide to a plain number. */
function ratioOf(above: KnownColumn, below: KnownColumn): string {
  const [a, b] = [writeName(above.name), writeName(below.name)];
  return above.kind === "number" && below.kind === "duration" ? `${a} / hours(${b})` : `${a} / ${b}`;
}
