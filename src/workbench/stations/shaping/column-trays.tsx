"use client";

import { useEffect, useMemo, useState } from "react";
import { writeName } from "../../../core/formula/words";
import { writeChoice, writeRange } from "../../../core/formula/written";
import { PALETTES } from "../../../core/scene/theme";
import type { StepValue } from "../../../core/sheet/edit/step-edit";
import type { Kind } from "../../../core/table/column";
import { readIsoDate, readIsoDatetime } from "../../../core/table/time-text";
import { useDesk, useDeskState } from "../../desk/desk-context";
import { takeColumnWords, withColumnWords } from "../../desk/shaping";
import { shortestEdit } from "../../desk/text-edit";
import { Coral, count, many, Quiet } from "../../frame/kit";
import { useAsked } from "../ask";
import { Field, Fields, OneOf, Select, SomeOf, StepTray, TrayBox, type TrayProps, useTried } from "./tray-kit";

/** Trays that are about one column: the first that is marked. */

const columnOf = ({ columns, marked }: TrayProps) => columns.find(({ name }) => name === marked[0]);

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

/** Keeps or excludes rows by the values of a column: ticked ones, or a range. */
export function ValuesTray(props: TrayProps) {
  const column = columnOf(props);
  const [way, setWay] = useState<"keep" | "exclude">("keep");
  const [ticked, setTicked] = useState<string[]>([]);
  const [low, setLow] = useState("");
  const [high, setHigh] = useState("");
  const [find, setFind] = useState("");
  const name = column?.name ?? "";
  const kind = column?.kind ?? "text";
  const listed = kind === "text" || kind === "boolean";
  const values = useAsked(
    (call) => (listed ? call.values(props.table, props.stage, name) : undefined),
    [props.table, props.stage, name],
  );
  const shown = (values ?? []).filter(({ value }) => value.toLowerCase().includes(find.toLowerCase())).slice(0, 200);
  const step = useMemo(() => {
    if (listed) {
      const known = ticked.filter((value) => value !== "");
      return ticked.length
        ? { keep: writeChoice(name, kind, known, ticked.includes(""), way === "exclude") }
        : undefined;
    }
    const [from, to] = [endOf(low, kind), endOf(high, kind)];
    if (from === undefined && to === undefined) return undefined;
    const range = writeRange(name, kind, from, to, true);
    return { keep: way === "keep" ? range : `not (${range})` };
  }, [listed, ticked, low, high, way, name, kind]);
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
        <>
          {(values?.length ?? 0) > 12 && <Field label="find" value={find} onChange={setFind} />}
          <SomeOf
            label={`Values of ${name}`}
            value={ticked}
            onChange={setTicked}
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
      ) : (
        <Fields>
          <Field
            label="from"
            value={low}
            onChange={setLow}
            hint={kind === "date" || kind === "datetime" ? "2025-01-31" : kind === "duration" ? "hours" : ""}
            width={120}
          />
          <Field
            label="to"
            value={high}
            onChange={setHigh}
            hint={kind === "date" || kind === "datetime" ? "2025-12-31" : kind === "duration" ? "hours" : ""}
            width={120}
          />
        </Fields>
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

const KINDS: readonly (readonly [Kind | "", string])[] = [
  ["", "as it is found"],
  ["number", "number"],
  ["text", "text"],
  ["date", "date"],
  ["datetime", "date with time"],
  ["duration", "length of time"],
  ["boolean", "true or false"],
];

/** The kind of a column and how its text is read; said under columns:, so that reading itself does it. */
export function KindTray(props: TrayProps) {
  const desk = useDesk();
  const name = props.marked[0] ?? "";
  const text = useDeskState((state) => state.text);
  const [kind, setKind] = useState<Kind | "">("");
  const [read, setRead] = useState("");
  const after = (now: string) =>
    withColumnWords(
      now,
      props.table,
      name,
      kind === "" ? {} : { type: kind, ...(read.trim() ? { read: read.trim() } : {}) },
    );
  const changed = kind !== "" && after(text) !== text;
  const tried = useTried(
    { table: props.table, stage: 0 },
    (now) => (kind === "" ? undefined : [shortestEdit(now, after(now))]),
    `${name} ${kind} ${read}`,
  );
  const report = tried?.report?.columns.find((own) => own.name === name);
  const at = tried?.columns.findIndex((own) => own.name === name) ?? -1;
  const write = () => {
    if (desk.edit([shortestEdit(text, after(text))])) props.close();
  };
  const hint = kind === "number" ? "1.234,5" : kind === "duration" ? "%H:%M" : "%d/%m/%Y";
  return (
    <TrayBox
      title={`How ${name} is read`}
      close={props.close}
      write={write}
      ready={changed && tried !== undefined && tried.problems.length === 0}
      words={
        tried &&
        (tried.problems.length ? (
          <Coral role="status">{tried.problems[0]}</Coral>
        ) : report ? (
          <span role="status">
            {report.unread ? (
              <Coral>
                {many(report.unread, "cell")} cannot be read so, such as{" "}
                {report.examples
                  .slice(0, 3)
                  .map((one) => `"${one.text}"`)
                  .join(", ")}
              </Coral>
            ) : (
              "every cell can be read so"
            )}
            <Quiet>
              {" "}
              ·{" "}
              {tried.rows
                .slice(0, 4)
                .map((cells) => cells[at])
                .filter(Boolean)
                .join(" · ")}
            </Quiet>
          </span>
        ) : (
          <Quiet role="status">{name} is made by a step; how it is read is decided there</Quiet>
        ))
      }
    >
      <OneOf label="Kind" value={kind} onChange={setKind} of={KINDS} />
      {["number", "date", "datetime", "duration"].includes(kind) && (
        <Fields>
          <Field
            label={kind === "number" ? "an example with its marks" : "its letters"}
            value={read}
            onChange={setRead}
            hint={hint}
            formula
          />
          {kind !== "number" && (
            <Quiet>%Y year · %m month · %d day · %H hour · %M minute · %S second · %b month's name</Quiet>
          )}
        </Fields>
      )}
    </TrayBox>
  );
}

/** Label, unit and format: said once, used by every axis, tooltip, legend and table. */
export function WordsTray(props: TrayProps) {
  const desk = useDesk();
  const column = columnOf(props);
  const name = column?.name ?? "";
  const [label, setLabel] = useState("");
  const [unit, setUnit] = useState(column?.unit ?? "");
  const [format, setFormat] = useState("");
  const [image, setImage] = useState(false);
  const words = {
    ...(label ? { label } : {}),
    ...(unit && unit !== column?.unit ? { unit } : {}),
    ...(format ? { format } : {}),
    ...(image ? { role: "image" } : {}),
  };
  const hints: Partial<Record<Kind, string>> = {
    number: ",.1f",
    date: "%-d %b %Y",
    datetime: "%-d %b %H:%M",
    duration: "h:mm",
  };
  const tried = useTried(
    { table: props.table, stage: props.stage },
    (now) =>
      Object.keys(words).length ? [shortestEdit(now, withColumnWords(now, props.table, name, words))] : undefined,
    JSON.stringify(words),
  );
  const at = tried?.columns.findIndex((own) => own.name === name) ?? -1;
  return (
    <TrayBox
      title={`Words of ${name}`}
      close={props.close}
      write={() => takeColumnWords(desk, props.table, name, words) && props.close()}
      ready={Object.keys(words).length > 0 && (tried?.problems.length ?? 0) === 0}
      words={
        tried &&
        (tried.problems.length ? (
          <Coral role="status">{tried.problems[0]}</Coral>
        ) : (
          <Quiet role="status">
            {tried.rows
              .slice(0, 4)
              .map((cells) => cells[at])
              .filter(Boolean)
              .join(" · ")}
          </Quiet>
        ))
      }
    >
      <Fields>
        <Field label="label" value={label} onChange={setLabel} />
        <Field label="unit" value={unit} onChange={setUnit} width={70} />
        {column?.kind !== "text" && (
          <Field
            label="format"
            value={format}
            onChange={setFormat}
            hint={hints[column?.kind ?? "number"] ?? ""}
            width={110}
            formula
          />
        )}
        {column?.kind === "text" && (
          <SomeOf
            label="Role"
            value={image ? ["image"] : []}
            onChange={(now) => setImage(now.length > 0)}
            of={[["image", "its texts are addresses of pictures"]]}
          />
        )}
      </Fields>
    </TrayBox>
  );
}

/** Colours of a column's values, the same in every chart. */
export function ColorsTray(props: TrayProps) {
  const desk = useDesk();
  const name = props.marked[0] ?? "";
  const values = useAsked((call) => call.values(props.table, props.stage, name), [props.table, props.stage, name]);
  const [colors, setColors] = useState<Record<string, string>>({});
  useEffect(() => {
    const palette = PALETTES.quay.light;
    setColors(
      Object.fromEntries(
        (values ?? [])
          .filter(({ value }) => value !== "")
          .slice(0, 12)
          .map(({ value }, at) => [value, palette[at % palette.length] as string]),
      ),
    );
  }, [values]);
  return (
    <TrayBox
      title={`Colours of ${name}`}
      close={props.close}
      write={() => takeColumnWords(desk, props.table, name, { colors }) && props.close()}
      ready={Object.keys(colors).length > 0}
    >
      <Fields>
        {Object.entries(colors).map(([value, color]) => (
          <Field
            key={value}
            label={value}
            type="color"
            value={color}
            width={34}
            onChange={(next) => setColors({ ...colors, [value]: next })}
          />
        ))}
      </Fields>
    </TrayBox>
  );
}
