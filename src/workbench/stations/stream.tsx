"use client";

import { Button } from "react-aria-components";
import styled from "styled-components";
import { count, Press } from "../frame/kit";
import type { PlacedFinding, TableView } from "../worker/reply";

const List = styled.ol`
  list-style: none;
  padding: 0 12px 20px 0;
`;

const Step = styled(Button)`
  display: block;
  width: 100%;
  text-align: left;
  background: none;
  border: 0;
  border-top: 1px solid var(--ink);
  padding: 3px 8px 3px 14px;
  cursor: pointer;
  overflow-wrap: anywhere;
  &[aria-current] {
    background: var(--sheet);
    border-top-color: var(--brass);
    box-shadow: inset 3px 0 var(--brass);
    font-weight: 600;
  }
  &[data-hovered] {
    color: var(--sea);
  }
  small {
    display: block;
    font-size: 12px;
    font-weight: 400;
    color: var(--quiet);
  }
`;

const Broken = styled.p`
  border-top: 1px solid var(--coral);
  padding: 3px 8px 3px 14px;
  color: var(--coral);
  overflow-wrap: anywhere;
`;

const Gap = styled.div`
  position: relative;
  height: 58px;
  margin-left: 12px;
  svg {
    position: absolute;
    inset: 0;
    overflow: visible;
  }
  b {
    position: absolute;
    left: 8px;
    top: 8px;
    font-weight: 400;
  }
  em {
    position: absolute;
    font-style: normal;
    font-size: 12px;
    line-height: 14px;
    color: var(--quiet);
    top: 26px;
    right: 0;
  }
`;

const WIDE = 108;
const HIGH = 58;

/** The band between two steps: as wide as rows are left; what is lost leaves sideways as a stub. */
function Band({ rows, next, most, losses }: { rows: number; next: number | undefined; most: number; losses: readonly { rows: number; reason: string }[] }) {
  const width = (value: number) => (most === 0 ? 0 : Math.max(value > 0 ? 2 : 0, (value / most) * WIDE));
  const own = width(rows);
  const lost = losses.reduce((sum, loss) => sum + loss.rows, 0);
  const left = next === undefined ? own : Math.min(own, width(next));
  const stub = lost > 0 ? Math.max(4, Math.min(16, own - left)) : 0;
  const out = WIDE + 14;
  const path = `M0 0H${own}V${HIGH - 22}${stub ? `C${own} ${HIGH - 14} ${own + 6} ${HIGH - 12} ${out} ${HIGH - 12}V${HIGH - 12 + stub}H${left + 6}Q${left} ${HIGH - 12 + stub} ${left} ${HIGH}` : `L${left} ${HIGH}`}H0Z`;
  return (
    <Gap>
      <svg width={out} height={HIGH} aria-hidden="true">
        <path d={path} fill="var(--stream)" />
      </svg>
      <b>{count(rows)}</b>
      {lost > 0 && (
        <em style={{ left: out + 6 }}>
          {losses.slice(0, 3).map((loss) => (
            <span key={loss.reason} style={{ display: "block" }}>
              {count(loss.rows)} {loss.reason}
            </span>
          ))}
        </em>
      )}
    </Gap>
  );
}

/** A table's steps from top to bottom with the rows that are left between them. */
export function Stream({ table, stage, onStage, finding, onMend }: { table: TableView; stage: number; onStage: (stage: number) => void; finding: PlacedFinding | undefined; onMend: (finding: PlacedFinding) => void }) {
  const { ledger } = table;
  const most = Math.max(table.rowsIn, ...ledger.map(({ rowsOut }) => rowsOut), 1);
  const rowsAt = (at: number) => (at === 0 ? table.rowsIn : (ledger[at - 1]?.rowsOut ?? 0));
  const item = (at: number, words: string, why?: string) => (
    <li key={`${at} ${words}`}>
      <Step onPress={() => onStage(at)} {...(stage === at ? { "aria-current": "step" } : {})}>
        {words}
        {why && <small>{why}</small>}
      </Step>
      <Band rows={rowsAt(at)} next={at < ledger.length ? rowsAt(at + 1) : undefined} most={most} losses={ledger[at]?.losses ?? []} />
    </li>
  );
  return (
    <List aria-label={`Steps of ${table.name}`}>
      {item(0, table.source)}
      {ledger.map((line, at) => item(at + 1, line.step, line.why))}
      {table.brokenStep !== undefined && (
        <li>
          <Broken>
            {finding?.message ?? "this step cannot be run"} {finding?.fix && <Press onPress={() => onMend(finding)}>{finding.fix.title}</Press>}
          </Broken>
        </li>
      )}
    </List>
  );
}
