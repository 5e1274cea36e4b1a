"use client";

import { useMemo, useState } from "react";
import { writeName } from "../../../core/formula/words";
import { writeChoice, writeRange } from "../../../core/formula/written";
import type { StepValue } from "../../../core/sheet/edit/step-edit";
import type { Kind } from "../../../core/table/column";
import { readIsoDate, readIsoDatetime } from "../../../core/table/time-text";
import { count, Quiet } from "../../frame/kit";
import { useAsked } from "../ask";
import { columnOf, Field, Fields, OneOf, Select, SomeOf, StepTray, type TrayProps } from "./tray-kit";

/** Trays for steps that are about one column: the first that is marked. */

export function RenameTray(props: TrayProps) {
  const name = props.marked[0] ?? "";
  const [to, setTo] = useState(name);
  const step = to.trim() && to !== name ? { rename: { [name]: to.trim() } } : undefined;
  return (
    <StepTray {...props} title={`Rename ${name}`} step={step}>
      <Fields>
        <Field label="to" value={to} onChange={setTo} />
      </Fields>
    </StepTray>
  );
}

/** Reads an end of a range as the author writes it. */
function endOf(text: string, kind: Kind): number | undefined {
  const plain = text.trim();
  if (plain === "") return undefined;
  if (kind === "date" || kind === "datetime") {
    const date = readIsoDate(plain);
    const moment = date === date ? date : readIsoDatetime(plain.replace(" ", "T").length >= 16 ? plain : "");
    return moment === moment ? moment : undefined;
  }
  const number = Number(plain);
  return Number.isFinite(number) ? (kind === "duration" ? number * 3600 : number) : undefined;
}

interface TickedProps {
  name: string;
  values: readonly { value: string; rows: number }[];
  ticked: string[];
  onChange: (ticked: string[]) => void;
}

/** How many values are listed at most; a longer list is searched. */
const LISTED = 200;

/** Values of a column to tick, each with its rows. */
function TickedValues({ name, values, ticked, onChange }: TickedProps) {
  const [find, setFind] = useState("");
  const shown = values.filter(({ value }) => value.toLowerCase().includes(find.toLowerCase())).slice(0, LISTED);
  return (
    <>
      {values.length > 12 && <Field label="find" value={find} onChange={setFind} />}
      <SomeOf
        label={`Values of ${name}`}
        value={ticked}
        onChange={onChange}
        of={shown.map(
          ({ value, rows }) =>
            [
              value,
              <>
                {value === "" ? "missing" : value} <Quiet>{count(rows)}</Quiet>
              </>,
            ] as const,
        )}
      />
    </>
  );
}

/** The two ends of a range, as an author writes them. */
type Ends = readonly [low: string, high: string];

const ENDS_HINTS: Partial<Record<Kind, Ends>> = {
  date: ["2025-01-31", "2025-12-31"],
  datetime: ["2025-01-31", "2025-12-31"],
  duration: ["hours", "hours"],
};

function RangeEnds({ kind, ends, onChange }: { kind: Kind; ends: Ends; onChange: (ends: Ends) => void }) {
  const [low, high] = ends;
  const [lowHint, highHint] = ENDS_HINTS[kind] ?? ["", ""];
  return (
    <Fields>
      <Field label="from" value={low} onChange={(next) => onChange([next, high])} hint={lowHint} width={120} />
      <Field label="to" value={high} onChange={(next) => onChange([low, next])} hint={highHint} width={120} />
    </Fields>
  );
}

type Way = "keep" | "exclude";

/** The step that keeps or excludes ticked values; the empty text stands for rows without a value. */
const tickedStep = (name: string, kind: Kind, ticked: readonly string[], way: Way): StepValue | undefined => {
  const known = ticked.filter((value) => value !== "");
  return ticked.length ? { keep: writeChoice(name, kind, known, ticked.includes(""), way === "exclude") } : undefined;
};

/** The step that keeps or excludes a range, of which one end may be open. */
function rangeStep(name: string, kind: Kind, [low, high]: Ends, way: Way): StepValue | undefined {
  const [from, to] = [endOf(low, kind), endOf(high, kind)];
  if (from === undefined && to === undefined) return undefined;
  const range = writeRange(name, kind, from, to, true);
  return { keep: way === "keep" ? range : `not (${range})` };
}

/** Keeps or excludes rows by the values of a column: ticked ones, or a range. */
export function ValuesTray(props: TrayProps) {
  const column = columnOf(props);
  const [way, setWay] = useState<Way>("keep");
  const [ticked, setTicked] = useState<string[]>([]);
  const [ends, setEnds] = useState<Ends>(["", ""]);
  const name = column?.name ?? "";
  const kind = column?.kind ?? "text";
  const listed = kind === "text" || kind === "boolean";
  const values = useAsked(
    (call) => (listed ? call.values(props.table, props.stage, name) : undefined),
    [props.table, props.stage, name],
  );
  const step = useMemo(
    () => (listed ? tickedStep(name, kind, ticked, way) : rangeStep(name, kind, ends, way)),
    [listed, ticked, ends, way, name, kind],
  );
  return (
    <StepTray {...props} title={`Keep or exclude rows by ${name}`} step={step}>
      <OneOf
        label="Keep or exclude"
        value={way}
        onChange={setWay}
        of={[
          ["keep", "keep these"],
          ["exclude", "exclude these"],
        ]}
      />
      {listed ? (
        <TickedValues name={name} values={values ?? []} ticked={ticked} onChange={setTicked} />
      ) : (
        <RangeEnds kind={kind} ends={ends} onChange={setEnds} />
      )}
    </StepTray>
  );
}

/** Keeps only values that occur often enough. */
export function FrequentTray(props: TrayProps) {
  const name = props.marked[0] ?? "";
  const [least, setLeast] = useState("20");
  const rows = Math.round(Number(least));
  return (
    <StepTray
      {...props}
      title={`Keep only frequent values of ${name}`}
      step={rows >= 1 ? { keep: `count() >= ${rows}`, within: [name] } : undefined}
    >
      <Fields>
        <Field label="those with at least" type="number" value={least} onChange={setLeast} width={70} /> rows
      </Fields>
    </StepTray>
  );
}

export function FillTray(props: TrayProps) {
  const column = columnOf(props);
  const name = column?.name ?? "";
  const [way, setWay] = useState<"value" | "forward">("value");
  const [value, setValue] = useState(column?.kind === "text" ? "none" : "0");
  const [order, setOrder] = useState("");
  const step: StepValue | undefined =
    way === "value"
      ? value
        ? { fill: { [name]: value } }
        : undefined
      : { fill_forward: [name], ...(order ? { order: writeName(order) } : {}) };
  return (
    <StepTray {...props} title={`Fill what is missing in ${name}`} step={step}>
      <OneOf
        label="Fill with"
        value={way}
        onChange={setWay}
        of={[
          ["value", "with a value"],
          ["forward", "with the last known"],
        ]}
      />
      <Fields>
        {way === "value" ? (
          <Field label="value" value={value} onChange={setValue} />
        ) : (
          <Select
            label="in the order of"
            value={order}
            onChange={setOrder}
            of={[
              ["", "the rows"],
              ...props.columns.filter(({ kind }) => kind !== "text").map(({ name: own }) => [own, own] as const),
            ]}
          />
        )}
      </Fields>
    </StepTray>
  );
}
