"use client";

import { useEffect, useState } from "react";
import { PALETTES } from "../../../core/scene/theme";
import { withColumnWords } from "../../../core/sheet/edit/column-edit";
import { shortestEdit } from "../../../core/sheet/edit/shortest-edit";
import type { Kind } from "../../../core/table/column";
import { useDesk, useDeskState } from "../../desk/desk-context";
import { takeColumnWords } from "../../desk/shaping";
import { Coral, many, Quiet } from "../../frame/kit";
import type { Tried } from "../../worker/reply";
import { useAsked } from "../ask";
import { columnOf, Field, Fields, OneOf, SomeOf, TrayBox, type TrayProps, useTried } from "./tray-kit";

/** Trays for what is said of a column under `columns:`: how it is read, its words, its colours. */

const KINDS: readonly (readonly [Kind | "", string])[] = [
  ["", "as it is found"],
  ["number", "number"],
  ["text", "text"],
  ["date", "date"],
  ["datetime", "date with time"],
  ["duration", "length of time"],
  ["boolean", "true or false"],
];

/** The kinds that a text can be read as by letters or an example, with one of them. */
const READ_HINTS: Partial<Record<Kind | "", string>> = {
  number: "1.234,5",
  date: "%d/%m/%Y",
  datetime: "%d/%m/%Y",
  duration: "%H:%M",
};

/** The first cells of a column as they come out. */
function firstCells(tried: Tried, name: string): string {
  const at = tried.columns.findIndex((own) => own.name === name);
  const cells = tried.rows.slice(0, 4).map((row) => row[at]);
  return cells.filter(Boolean).join(" · ");
}

/** What comes of reading a column so: cells that cannot be read, and the first that can. */
function ReadSo({ tried, name }: { tried: Tried; name: string }) {
  const report = tried.report?.columns.find((own) => own.name === name);
  if (tried.problems.length) return <Coral role="status">{tried.problems[0]}</Coral>;
  if (!report) return <Quiet role="status">{name} is made by a step; how it is read is decided there</Quiet>;
  const examples = report.examples.slice(0, 3).map((one) => `"${one.text}"`);
  return (
    <span role="status">
      {report.unread ? (
        <Coral>
          {many(report.unread, "cell")} cannot be read so, such as {examples.join(", ")}
        </Coral>
      ) : (
        "every cell can be read so"
      )}
      <Quiet> · {firstCells(tried, name)}</Quiet>
    </span>
  );
}

/** The kind of a column and how its text is read; said under columns:, so that reading itself does it. */
export function KindTray(props: TrayProps) {
  const desk = useDesk();
  const name = props.marked[0] ?? "";
  const text = useDeskState((state) => state.text);
  const [kind, setKind] = useState<Kind | "">("");
  const [read, setRead] = useState("");
  const words = kind === "" ? {} : { type: kind, ...(read.trim() ? { read: read.trim() } : {}) };
  const after = (now: string) => withColumnWords(now, props.table, name, words);
  const tried = useTried(
    { table: props.table, stage: 0 },
    (now) => (kind === "" ? undefined : [shortestEdit(now, after(now))]),
    `${name} ${kind} ${read}`,
  );
  const hint = READ_HINTS[kind];
  return (
    <TrayBox
      title={`How ${name} is read`}
      close={props.close}
      write={() => desk.edit([shortestEdit(text, after(text))]) && props.close()}
      ready={kind !== "" && after(text) !== text && tried?.problems.length === 0}
      words={tried && <ReadSo tried={tried} name={name} />}
    >
      <OneOf label="Kind" value={kind} onChange={setKind} of={KINDS} />
      {hint && (
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

const FORMAT_HINTS: Partial<Record<Kind, string>> = {
  number: ",.1f",
  date: "%-d %b %Y",
  datetime: "%-d %b %H:%M",
  duration: "h:mm",
};

/** Label, unit and format: said once, used by every axis, tooltip, legend and table. */
export function WordsTray(props: TrayProps) {
  const desk = useDesk();
  const column = columnOf(props);
  const name = column?.name ?? "";
  const kind = column?.kind ?? "number";
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
  const isSaid = Object.keys(words).length > 0;
  const tried = useTried(
    { table: props.table, stage: props.stage },
    (now) => (isSaid ? [shortestEdit(now, withColumnWords(now, props.table, name, words))] : undefined),
    JSON.stringify(words),
  );
  const problem = tried?.problems[0];
  return (
    <TrayBox
      title={`Words of ${name}`}
      close={props.close}
      write={() => takeColumnWords(desk, props.table, name, words) && props.close()}
      ready={isSaid && problem === undefined}
      words={
        problem ? (
          <Coral role="status">{problem}</Coral>
        ) : (
          tried && <Quiet role="status">{firstCells(tried, name)}</Quiet>
        )
      }
    >
      <Fields>
        <Field label="label" value={label} onChange={setLabel} />
        <Field label="unit" value={unit} onChange={setUnit} width={70} />
        {kind === "text" ? (
          <SomeOf
            label="Role"
            value={image ? ["image"] : []}
            onChange={(now) => setImage(now.length > 0)}
            of={[["image", "its texts are addresses of pictures"]]}
          />
        ) : (
          <Field
            label="format"
            value={format}
            onChange={setFormat}
            hint={FORMAT_HINTS[kind] ?? ""}
            width={110}
            formula
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
