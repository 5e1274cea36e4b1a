"use client";

import { useState } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import type { TextEdit } from "../../core/finding/finding";
import { moveStep, removeStep, replaceStep, stepSource, switchStep } from "../../core/sheet/edit/step-edit";
import { useDesk } from "../desk/desk-context";
import { count, Press, Word } from "../frame/kit";
import type { PlacedFinding, TableView } from "../worker/reply";

const List = styled.ol`
  list-style: none;
  padding: 0 12px 12px 0;
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
  &[data-off] {
    text-decoration: line-through;
    color: var(--quiet);
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

const Actions = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
  padding: 0 8px 4px 14px;
  background: var(--sheet);
  box-shadow: inset 3px 0 var(--brass);
  font-size: 12px;
`;

const Written = styled.form`
  background: var(--sheet);
  box-shadow: inset 3px 0 var(--brass);
  padding: 2px 8px 4px 14px;
  display: grid;
  gap: 2px;
  textarea {
    font: 12px/1.5 var(--mono);
    color: var(--ink);
    background: none;
    border: 0;
    border-bottom: 1px solid var(--ink);
    resize: vertical;
    width: 100%;
  }
  div {
    display: flex;
    gap: 12px;
    font-size: 12px;
  }
`;

const Broken = styled.div`
  border-top: 1px solid var(--coral);
  padding: 3px 8px 3px 14px;
  color: var(--coral);
  overflow-wrap: anywhere;
`;

const Gap = styled.div`
  position: relative;
  margin-left: 12px;
  svg {
    position: absolute;
    left: 0;
    top: 0;
    overflow: visible;
  }
  b {
    position: absolute;
    left: 8px;
    top: 8px;
    font-weight: 400;
  }
  em {
    position: relative;
    display: block;
    font-style: normal;
    font-size: 12px;
    line-height: 14px;
    color: var(--quiet);
    padding: 24px 0 4px;
  }
`;

const WIDE = 108;
const HIGH = 58;

/** The band between two steps: as wide as rows are left; what is lost leaves sideways as a stub. */
function Band({
  rows,
  next,
  most,
  losses,
  notes,
}: {
  rows: number;
  next: number | undefined;
  most: number;
  losses: readonly { rows: number; reason: string }[];
  notes: readonly { rows: number; reason: string }[];
}) {
  const width = (value: number) => (most === 0 ? 0 : Math.max(value > 0 ? 2 : 0, (value / most) * WIDE));
  const own = width(rows);
  const lost = losses.reduce((sum, loss) => sum + loss.rows, 0);
  const left = next === undefined ? own : width(next);
  const stub = lost > 0 ? Math.max(4, Math.min(16, own - left)) : 0;
  const out = WIDE + 14;
  const words = [...losses, ...notes].slice(0, 4);
  const high = Math.max(HIGH, 30 + words.length * 16);
  const path = `M0 0H${own}V${high - 22}${stub ? `C${own} ${high - 14} ${own + 6} ${high - 12} ${out} ${high - 12}V${high - 12 + stub}H${left + 6}Q${left} ${high - 12 + stub} ${left} ${high}` : `L${left} ${high}`}H0Z`;
  return (
    <Gap style={{ minHeight: high }}>
      <svg width={out} height={high} aria-hidden="true">
        <path d={path} fill="var(--stream)" />
      </svg>
      <b>{count(rows)}</b>
      {words.length > 0 && (
        <em style={{ marginLeft: out + 6 }}>
          {words.map((loss) => (
            <span key={loss.reason} style={{ display: "block" }}>
              {count(loss.rows)} {loss.reason}
            </span>
          ))}
        </em>
      )}
    </Gap>
  );
}

/** A step's own text, to be written over where it stands. */
function StepText({ source, write, close }: { source: string; write: (text: string) => void; close: () => void }) {
  const [text, setText] = useState(source);
  return (
    <Written
      onSubmit={(event) => {
        event.preventDefault();
        write(text);
      }}
      onKeyDown={(event) => {
        if (event.key === "Escape") close();
        if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) write(text);
      }}
    >
      <textarea
        aria-label="Text of the step"
        value={text}
        rows={Math.min(8, source.split("\n").length + 1)}
        // biome-ignore lint/a11y/noAutofocus: the author has just asked to write here.
        autoFocus
        spellCheck={false}
        onChange={(event) => setText(event.target.value)}
      />
      <div>
        <Press type="submit">write</Press>
        <Word onPress={close}>leave</Word>
      </div>
    </Written>
  );
}

interface StreamProps {
  table: TableView;
  stage: number;
  onStage: (stage: number | undefined) => void;
  finding: PlacedFinding | undefined;
  onMend: (finding: PlacedFinding) => void;
}

interface StepActionsProps {
  table: string;
  /** The step and how many there are. */
  step: number;
  steps: number;
  off: boolean;
  /** What is stood on after a change. */
  onStage: (stage: number) => void;
}

/** What can be done with one step: written anew, switched, moved, taken away. */
function StepActions({ table, step, steps, off, onStage }: StepActionsProps) {
  const desk = useDesk();
  const [isWriting, setWriting] = useState(false);
  const change = (edit: (text: string) => TextEdit[] | undefined, then?: number) => {
    if (desk.edit(edit(desk.state.get().text)) && then !== undefined) onStage(then);
  };
  const moveTo = (to: number) => change((text) => moveStep(text, table, step, to), to + 1);
  if (isWriting) {
    return (
      <StepText
        source={stepSource(desk.state.get().text, table, step) ?? ""}
        close={() => setWriting(false)}
        write={(text) => {
          change((now) => replaceStep(now, table, step, text));
          setWriting(false);
        }}
      />
    );
  }
  return (
    <Actions role="toolbar" aria-label={`Step ${step + 1}`}>
      <Press onPress={() => setWriting(true)}>write</Press>
      <Press onPress={() => change((text) => switchStep(text, table, step, !off))}>
        {off ? "switch on" : "switch off"}
      </Press>
      {step > 0 && <Press onPress={() => moveTo(step - 1)}>up</Press>}
      {step < steps - 1 && <Press onPress={() => moveTo(step + 1)}>down</Press>}
      <Press onPress={() => change((text) => removeStep(text, table, step), step)}>take away</Press>
    </Actions>
  );
}

/**
 * A table's steps from top to bottom with the rows that are left between them; the one that is stood on can be
 * changed.
 */
export function Stream({ table, stage, onStage, finding, onMend }: StreamProps) {
  const { ledger, name, brokenStep } = table;
  const steps = ledger.length + (brokenStep === undefined ? 0 : 1);
  const most = Math.max(table.rowsIn, ...ledger.map(({ rowsOut }) => rowsOut), 1);
  const rowsAt = (at: number) => (at === 0 ? table.rowsIn : (ledger[at - 1]?.rowsOut ?? 0));
  const actions = (step: number, off: boolean) => (
    <StepActions key={step} table={name} step={step} steps={steps} off={off} onStage={onStage} />
  );
  const item = (at: number, words: string, why?: string, off = false) => (
    <li key={at}>
      <Step
        onPress={() => onStage(at)}
        {...(stage === at ? { "aria-current": "step" } : {})}
        {...(off ? { "data-off": true } : {})}
      >
        {words}
        {off && <small>switched off for a look</small>}
        {why && <small>{why}</small>}
      </Step>
      {at > 0 && stage === at && actions(at - 1, off)}
      <Band
        rows={rowsAt(at)}
        next={at < ledger.length ? rowsAt(at + 1) : undefined}
        most={most}
        losses={ledger[at]?.losses ?? []}
        notes={ledger[at]?.notes ?? []}
      />
    </li>
  );
  return (
    <List aria-label={`Steps of ${name}`}>
      {item(0, table.source)}
      {ledger.map((line, at) => item(at + 1, line.step, line.why, line.off === true))}
      {brokenStep !== undefined && (
        <li>
          <Broken>
            {finding?.message ?? "this step cannot be run"}{" "}
            {finding?.fix && <Press onPress={() => onMend(finding)}>{finding.fix.title}</Press>}
          </Broken>
          {actions(brokenStep, false)}
        </li>
      )}
    </List>
  );
}
