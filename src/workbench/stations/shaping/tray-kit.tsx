"use client";

import { type ReactNode, useEffect, useId, useState } from "react";
import styled from "styled-components";
import type { TextEdit } from "../../../core/finding/finding";
import { applyEdits } from "../../../core/finding/finding";
import type { KnownColumn } from "../../../core/sheet/assist/knowledge";
import { insertStep, type StepValue } from "../../../core/sheet/edit/step-edit";
import type { ColumnSummary } from "../../../core/table/summary";
import { useDesk, useDeskState } from "../../desk/desk-context";
import { type Standing, takeStep } from "../../desk/shaping";
import { Coral, count, many, Press, Quiet, Word } from "../../frame/kit";
import type { Tried } from "../../worker/reply";

/** What every tray is told: where a step would go, and what the rows there are. */
export interface TrayProps extends Standing {
  columns: readonly KnownColumn[];
  /** Columns that the author has marked, in the order of marking. */
  marked: readonly string[];
  summaries: ReadonlyMap<string, ColumnSummary>;
  /** Marks these columns in place of those. */
  mark: (names: string[]) => void;
  close: () => void;
}

/** The column that a tray is about: the first that is marked. */
export const columnOf = ({ columns, marked }: TrayProps) => columns.find(({ name }) => name === marked[0]);

const Box = styled.form`
  background: var(--sheet);
  border-top: 2px solid var(--brass);
  border-bottom: 1px solid var(--ink);
  padding: 10px 14px 12px;
  margin-right: 14px;
  display: grid;
  gap: 10px;
  max-height: 52vh;
  overflow: auto;
  h3 {
    font: 600 13px/1.3 var(--sans);
  }
`;

const Line = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: baseline;
`;

export const FieldBox = styled.label`
  display: inline-flex;
  gap: 6px;
  align-items: baseline;
  color: var(--quiet);
  input,
  select {
    font: inherit;
    color: var(--ink);
    background: none;
    border: 0;
    border-bottom: 1px solid var(--ink);
    padding: 2px 0;
    min-width: 0;
  }
  option {
    background: var(--sheet);
    color: var(--ink);
  }
  input[type="checkbox"],
  input[type="radio"] {
    accent-color: var(--brass);
    align-self: center;
  }
  &[data-formula] input {
    font-family: var(--mono);
  }
`;

/** A field with its word before it. */
export function Field({
  label,
  value,
  onChange,
  width = 160,
  type = "text",
  formula,
  hint,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  width?: number;
  type?: "text" | "number" | "color";
  formula?: boolean;
  hint?: string;
}) {
  return (
    <FieldBox {...(formula ? { "data-formula": true } : {})}>
      {label}
      <input
        type={type}
        value={value}
        placeholder={hint}
        onChange={(event) => onChange(event.target.value)}
        style={{ width }}
        spellCheck={false}
        autoComplete="off"
      />
    </FieldBox>
  );
}

export function Select({
  label,
  value,
  of,
  onChange,
}: {
  label: string;
  value: string;
  of: readonly (string | readonly [string, string])[];
  onChange: (value: string) => void;
}) {
  return (
    <FieldBox>
      {label}
      <select value={value} onChange={(event) => onChange(event.target.value)}>
        {of.map((option) => {
          const [own, words] = typeof option === "string" ? [option, option] : option;
          return (
            <option key={own} value={own}>
              {words}
            </option>
          );
        })}
      </select>
    </FieldBox>
  );
}

/** Words of which one holds. */
export function OneOf<T extends string>({
  label,
  value,
  of,
  onChange,
}: {
  label: string;
  value: T;
  of: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
}) {
  const name = useId();
  return (
    <Line role="radiogroup" aria-label={label}>
      {of.map(([own, words]) => (
        <FieldBox key={own}>
          <input type="radio" name={name} checked={value === own} onChange={() => onChange(own)} />
          {words}
        </FieldBox>
      ))}
    </Line>
  );
}

const Ticks = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  max-height: 148px;
  overflow: auto;
`;

/** So many boxes to tick stand at once; there are tables with thousands of columns. */
const TICKS_AT_ONCE = 60;

/** Words of which any hold. */
export function SomeOf({
  label,
  value,
  of,
  onChange,
}: {
  label: string;
  value: readonly string[];
  of: readonly (string | readonly [string, ReactNode])[];
  onChange: (value: string[]) => void;
}) {
  const [most, setMost] = useState(TICKS_AT_ONCE);
  const ticked = new Set(value);
  const left = of.length - most;
  return (
    <Ticks role="group" aria-label={label}>
      {of.slice(0, most).map((option) => {
        const [own, words] = typeof option === "string" ? [option, option] : option;
        return (
          <FieldBox key={own}>
            <input
              type="checkbox"
              checked={ticked.has(own)}
              onChange={() => onChange(ticked.has(own) ? value.filter((one) => one !== own) : [...value, own])}
            />
            <span>{words}</span>
          </FieldBox>
        );
      })}
      {left > 0 && (
        <Quiet>
          {count(value.length)} of {count(of.length)} are ticked.{" "}
          <Press onPress={() => setMost(most + TICKS_AT_ONCE)}>{`${count(Math.min(left, TICKS_AT_ONCE))} more`}</Press>
        </Quiet>
      )}
    </Ticks>
  );
}

/** What the table would be at a stage if an edit were made; asked again when what is asked about changes. */
export function useTried(
  { table, stage }: Standing,
  edit: (text: string) => TextEdit[] | undefined,
  about: string,
): Tried | undefined {
  const desk = useDesk();
  const text = useDeskState((state) => state.text);
  const files = useDeskState((state) => state.files);
  const [tried, setTried] = useState<Tried>();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the edit is new at every drawing; what it is about says when it is another one.
  useEffect(() => {
    let late = false;
    const wait = setTimeout(() => {
      const edits = edit(text);
      if (!edits) return setTried(undefined);
      void desk.builder.call?.tried(applyEdits(text, edits), [...files], table, stage).then((found) => {
        if (!late) setTried(found);
      });
    }, 120);
    return () => {
      late = true;
      clearTimeout(wait);
    };
  }, [desk, text, files, table, stage, about]);
  return tried;
}

const Sample = styled.div`
  overflow-x: auto;
  background: var(--ground);
  border-top: 1px solid var(--rule);
  border-bottom: 1px solid var(--rule);
  table {
    border-collapse: collapse;
    font-size: 12px;
  }
  th,
  td {
    text-align: left;
    padding: 2px 14px 2px 6px;
    white-space: nowrap;
    max-width: 220px;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  th {
    font-weight: 600;
    border-bottom: 1px solid var(--rule);
  }
  th[data-new] {
    color: var(--brass);
  }
  td[data-number] {
    text-align: right;
  }
  td[data-missing] {
    color: var(--coral);
  }
`;

/** The first rows as they would be; columns that come into being stand out and come first. */
function SampleRows({ tried, before }: { tried: Tried; before: readonly KnownColumn[] }) {
  const known = new Set(before.map(({ name }) => name));
  const order = tried.columns
    .map((_, at) => at)
    .sort((a, b) => Number(known.has(tried.columns[a]?.name ?? "")) - Number(known.has(tried.columns[b]?.name ?? "")));
  const shown = order.slice(0, 12);
  return (
    <Sample>
      <table aria-label="The first rows as they would be">
        <thead>
          <tr>
            {shown.map((at) => {
              const name = tried.columns[at]?.name ?? "";
              return (
                <th key={name} scope="col" {...(known.has(name) ? {} : { "data-new": true })}>
                  {name}
                </th>
              );
            })}
          </tr>
        </thead>
        <tbody>
          {tried.rows.slice(0, 6).map((cells, row) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: rows of a sample have no other name than their place.
            <tr key={row}>
              {shown.map((at) => {
                const column = tried.columns[at];
                const text = cells[at] ?? "";
                return (
                  <td
                    key={column?.name}
                    {...(column?.kind === "text" || column?.kind === "boolean" ? {} : { "data-number": true })}
                    {...(text === "" ? { "data-missing": true } : {})}
                  >
                    {text === "" ? "missing" : text}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </Sample>
  );
}

/** What a step would do, in words: rows in and out, what leaves and why, what else is to be known. */
function TriedWords({ tried, otherwise }: { tried: Tried | undefined; otherwise: string | undefined }) {
  if (!tried) return null;
  if (tried.problems.length) return <Coral role="status">{tried.problems[0]}</Coral>;
  const { line } = tried;
  if (!line) return null;
  const parts = [...line.losses, ...(line.notes ?? [])].map(({ rows, reason }) => `${count(rows)} ${reason}`);
  return (
    <span role="status">
      {line.rowsIn === line.rowsOut
        ? many(line.rowsOut, "row")
        : `${count(line.rowsIn)} rows become ${count(line.rowsOut)}`}
      , {many(tried.columns.length, "column")}
      {parts.length || otherwise ? <Quiet> · {parts.length ? parts.join(" · ") : otherwise}</Quiet> : null}
    </span>
  );
}

/**
 * A tray for one step: its fields, what would become of the rows, and the press that writes it. `otherwise` is
 * said where nothing was lost.
 */
export function StepTray({
  title,
  step,
  otherwise,
  children,
  ...props
}: TrayProps & { title: string; step: StepValue | undefined; otherwise?: string; children: ReactNode }) {
  const desk = useDesk();
  const at = { table: props.table, stage: props.stage };
  const about = JSON.stringify(step ?? null);
  const tried = useTried(
    { ...at, stage: props.stage + 1 },
    (text) => (step ? insertStep(text, props.table, props.stage, step) : undefined),
    about,
  );
  const sound = step !== undefined && tried !== undefined && tried.problems.length === 0;
  const write = () => {
    if (step && takeStep(desk, at, step)) props.close();
  };
  return (
    <TrayBox
      title={title}
      close={props.close}
      write={write}
      ready={sound}
      words={step ? <TriedWords tried={tried} otherwise={otherwise} /> : null}
    >
      {children}
      {step && tried && tried.problems.length === 0 && <SampleRows tried={tried} before={props.columns} />}
    </TrayBox>
  );
}

/** The frame of every tray: a title, the fields, and at the foot the press that writes. */
export function TrayBox({
  title,
  close,
  write,
  ready,
  words,
  children,
}: {
  title: string;
  close: () => void;
  write: () => void;
  ready: boolean;
  words?: ReactNode;
  children: ReactNode;
}) {
  return (
    <Box
      aria-label={title}
      onSubmit={(event) => {
        event.preventDefault();
        if (ready) write();
      }}
      onKeyDown={(event) => {
        if (event.key !== "Escape") return;
        event.stopPropagation();
        close();
      }}
    >
      <h3>{title}</h3>
      {children}
      <Line>
        <Press type="submit" isDisabled={!ready}>
          write it into the sheet
        </Press>
        <Word onPress={close}>not now</Word>
        {words}
      </Line>
    </Box>
  );
}

export const Fields = Line;
