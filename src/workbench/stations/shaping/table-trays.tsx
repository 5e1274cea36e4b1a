"use client";

import { useState } from "react";
import { wideColumns } from "../../../core/advice/wide";
import { writeName } from "../../../core/formula/words";
import type { KnownColumn } from "../../../core/sheet/assist/knowledge";
import type { StepValue } from "../../../core/sheet/edit/step-edit";
import { readTree } from "../../../core/sheet/tree";
import { useDeskState } from "../../desk/desk-context";
import { Quiet, Word } from "../../frame/kit";
import { Field, Fields, OneOf, Select, SomeOf, StepTray, type TrayProps } from "./tray-kit";

/** Trays that are about several columns or the whole table. */

const isMeasure = ({ kind }: KnownColumn) => kind === "number" || kind === "duration";
const isMoment = ({ kind }: KnownColumn) => kind === "date" || kind === "datetime";
const names = (columns: readonly KnownColumn[]) => columns.map(({ name }) => name);

/** A name for a column that is not taken. */
function freeName(wanted: string, columns: readonly KnownColumn[]): string {
  let name = wanted;
  for (let n = 2; columns.some((column) => column.name === name); n++) name = `${wanted}_${n}`;
  return name;
}

interface Idea {
  words: string;
  name: string;
  formula: string;
}

/** What is often made of the columns that are marked. */
function ideasFor(columns: readonly KnownColumn[], marked: readonly string[]): Idea[] {
  const own = marked.flatMap((name) => columns.find((column) => column.name === name) ?? []);
  const [a, b] = own.map(({ name }) => writeName(name));
  const [first, second] = own;
  const lat = columns.find(({ name }) => /^lat(itude)?$/i.test(name));
  const lon = columns.find(({ name }) => /^lon(gitude)?$/i.test(name));
  const ideas: Idea[] = [];
  if (first && second && a && b) {
    if (isMeasure(first) && isMeasure(second))
      ideas.push(
        { words: "ratio", name: `${first.name}_per_${second.name}`, formula: `${a} / ${b}` },
        { words: "difference", name: "difference", formula: `${a} - ${b}` },
      );
    if (isMoment(first) && isMoment(second))
      ideas.push({ words: "time between", name: "between", formula: `${b} - ${a}` });
    if (isMeasure(first) && second.kind === "duration")
      ideas.unshift({ words: "per hour", name: "rate", formula: `${a} / hours(${b})` });
    if (first.kind === "text" && second.kind === "text")
      ideas.push({ words: "joined texts", name: "joined", formula: `concat(${a}, " ", ${b})` });
  } else if (first && a) {
    if (isMeasure(first)) {
      ideas.push(
        { words: "difference from the row before", name: `${first.name}_change`, formula: `${a} - previous(${a})` },
        { words: "running total", name: `${first.name}_total`, formula: `running_total(${a})` },
        { words: "moving average", name: `${first.name}_mean`, formula: `moving_mean(${a}, 12)` },
        { words: "rank", name: `${first.name}_rank`, formula: `rank(-${a})` },
        { words: "percent of the whole", name: `${first.name}_share`, formula: `${a} / sum(${a})` },
        { words: "whole numbers below", name: `${first.name}_whole`, formula: `floor(${a})` },
      );
    }
    if (isMoment(first))
      ideas.push(
        { words: "month", name: "month", formula: `by_month(${a})` },
        { words: "day of the week", name: "weekday", formula: `weekday(${a})` },
        { words: "time since the row before", name: "since", formula: `${a} - previous(${a})` },
      );
    if (first.kind === "text")
      ideas.push(
        { words: "small letters, trimmed", name: first.name, formula: `lower(trim(${a}))` },
        { words: "as a number", name: `${first.name}_number`, formula: `number(${a})` },
      );
  }
  if (lat && lon)
    ideas.push({
      words: "distance from the row before",
      name: "leg_km",
      formula: `distance_km(${writeName(lat.name)}, ${writeName(lon.name)}, previous(${writeName(lat.name)}), previous(${writeName(lon.name)}))`,
    });
  return ideas;
}

export function NewColumnTray(props: TrayProps) {
  const ideas = ideasFor(props.columns, props.marked);
  const [name, setName] = useState(
    ideas[0] ? (ideas[0].name === props.marked[0] ? ideas[0].name : freeName(ideas[0].name, props.columns)) : "",
  );
  const [formula, setFormula] = useState(ideas[0]?.formula ?? "");
  const [within, setWithin] = useState("");
  const [order, setOrder] = useState("");
  const step: StepValue | undefined =
    name.trim() && formula.trim()
      ? {
          add: { [name.trim()]: formula.trim() },
          ...(within ? { within: [within] } : {}),
          ...(order ? { order: writeName(order) } : {}),
        }
      : undefined;
  return (
    <StepTray {...props} title="New column" step={step}>
      {ideas.length > 0 && (
        <Fields>
          {ideas.map((idea) => (
            <Word
              key={idea.words}
              aria-pressed={formula === idea.formula}
              onPress={() => {
                setName(idea.name === props.marked[0] ? idea.name : freeName(idea.name, props.columns));
                setFormula(idea.formula);
              }}
            >
              {idea.words}
            </Word>
          ))}
        </Fields>
      )}
      <Fields>
        <Field label="name" value={name} onChange={setName} width={130} />
        <Field label="formula" value={formula} onChange={setFormula} width={300} formula />
      </Fields>
      <Fields>
        <Select
          label="by itself in each"
          value={within}
          onChange={setWithin}
          of={[["", "— the whole table"], ...names(props.columns).map((own) => [own, own] as const)]}
        />
        <Select
          label="in the order of"
          value={order}
          onChange={setOrder}
          of={[["", "the rows"], ...names(props.columns).map((own) => [own, own] as const)]}
        />
      </Fields>
    </StepTray>
  );
}

export function RuleTray(props: TrayProps) {
  const [rule, setRule] = useState("");
  const [why, setWhy] = useState("");
  return (
    <StepTray
      {...props}
      title="Keep rows by a rule"
      step={rule.trim() ? { keep: rule.trim(), ...(why.trim() ? { why: why.trim() } : {}) } : undefined}
    >
      <Fields>
        <Field
          label="keep where"
          value={rule}
          onChange={setRule}
          width={300}
          formula
          hint="tonnes > 0 and known(left)"
        />
        <Field label="why" value={why} onChange={setWhy} width={220} />
      </Fields>
    </StepTray>
  );
}

export function UniqueTray(props: TrayProps) {
  const { marked, mark } = props;
  return (
    <StepTray {...props} title="Drop duplicate rows" step={{ unique: marked.length ? [...marked] : "all" }}>
      <Quiet>
        {marked.length
          ? `Rows that are alike in ${marked.join(", ")} are one.`
          : "Whole rows are compared; press heads below to compare those alone."}
      </Quiet>
      {marked.length > 0 && (
        <Fields>
          <Word onPress={() => mark([])}>compare whole rows</Word>
        </Fields>
      )}
    </StepTray>
  );
}

export function UnpivotTray(props: TrayProps) {
  const [columns, setColumns] = useState<string[]>(
    props.marked.length > 1 ? [...props.marked] : wideColumns(props.columns),
  );
  const heads = columns.every((name) => /^\d{4}$/.test(name))
    ? "number"
    : columns.every((name) => /^\d{4}-\d{2}(-\d{2})?$/.test(name))
      ? "date"
      : "text";
  const [name, setName] = useState(heads === "date" ? "month" : heads === "number" ? "year" : "name");
  const [value, setValue] = useState("value");
  const [kind, setKind] = useState<string>(heads);
  const staying = names(props.columns).filter((own) => !columns.includes(own));
  // Where all but a few go, naming the few holds next month too, when there is one column more.
  const spec = staying.length <= 3 && columns.length > 3 ? { all_but: staying } : columns;
  const step: StepValue | undefined =
    columns.length && name && value
      ? { unpivot: { columns: spec, name: kind === "text" ? name : { [name]: kind }, value } }
      : undefined;
  return (
    <StepTray {...props} title="Make long: heads become values" step={step}>
      <SomeOf
        label="Columns whose heads become values"
        value={columns}
        onChange={setColumns}
        of={names(props.columns)}
      />
      <Fields>
        <Field label="the heads go into" value={name} onChange={setName} width={110} />
        <Select label="read as" value={kind} onChange={setKind} of={["text", "number", "date"]} />
        <Field label="the values into" value={value} onChange={setValue} width={110} />
      </Fields>
    </StepTray>
  );
}

export function PivotTray(props: TrayProps) {
  const texts = props.columns.filter(({ kind }) => kind === "text" || kind === "boolean" || kind === "date");
  const [name, setName] = useState(
    props.marked.find((own) => texts.some((column) => column.name === own)) ?? texts.at(-1)?.name ?? "",
  );
  const [by, setBy] = useState<string[]>(
    texts
      .slice(0, 1)
      .map((column) => column.name)
      .filter((own) => own !== name),
  );
  const measure = props.columns.find(isMeasure)?.name;
  const [value, setValue] = useState(measure ? `sum(${writeName(measure)})` : "count()");
  return (
    <StepTray
      {...props}
      title="Make wide: values become heads"
      step={by.length && name && value ? { pivot: { by, name, value } } : undefined}
    >
      <Fields>
        <Select label="the heads come from" value={name} onChange={setName} of={names(props.columns)} />
        <Field label="each cell is" value={value} onChange={setValue} formula />
      </Fields>
      <Quiet>One row for each</Quiet>
      <SomeOf
        label="One row for each"
        value={by}
        onChange={setBy}
        of={names(props.columns).filter((own) => own !== name)}
      />
    </StepTray>
  );
}

const hasColumn = (columns: readonly KnownColumn[] | undefined, name: string | undefined) =>
  columns?.some((column) => column.name === name) === true;

/** Which column of one table meets which of another, chosen by hand; at first those that are likeliest meant. */
function useMeeting(props: TrayProps) {
  const knowledge = useDeskState((state) => state.reply?.knowledge);
  const tables = [...(knowledge?.tables.keys() ?? [])].filter((name) => name !== props.table);
  const columnsOf = (name: string) => knowledge?.tables.get(name)?.at(-1) ?? [];
  // A table that has the marked column too is the likeliest to be meant.
  const [table, setTable] = useState(
    tables.find((name) => hasColumn(columnsOf(name), props.marked[0])) ?? tables[0] ?? "",
  );
  const theirs = columnsOf(table);
  const common = theirs.find((column) =>
    props.columns.some((own) => own.name === column.name && own.kind === column.kind),
  );
  const [own, setOwn] = useState(props.marked[0] ?? common?.name ?? props.columns[0]?.name ?? "");
  const [other, setOther] = useState(common?.name ?? theirs[0]?.name ?? "");
  const choose = (next: string) => {
    const columns = columnsOf(next);
    setTable(next);
    setOther(columns.find((column) => column.name === own)?.name ?? columns[0]?.name ?? "");
  };
  return { tables, table, theirs, own, setOwn, other, setOther, choose };
}

export function JoinTray(props: TrayProps) {
  const { tables, table, theirs, own, setOwn, other, setOther, choose } = useMeeting(props);
  const [get, setGet] = useState<string[]>([]);
  const [unmatched, setUnmatched] = useState<"keep" | "drop">("keep");
  const free = names(theirs).filter((name) => name !== other && !hasColumn(props.columns, name));
  const on = own === other ? own : { [own]: other };
  const join = { table, on, get, ...(unmatched === "drop" ? { unmatched } : {}) };
  const step: StepValue | undefined = table && own && other && get.length ? { join } : undefined;
  if (tables.length === 0)
    return (
      <StepTray {...props} title="Look up in another table" step={undefined}>
        <Quiet>There is no other table yet; add one first.</Quiet>
      </StepTray>
    );
  return (
    <StepTray {...props} title="Look up in another table" step={step} otherwise="every row finds exactly one">
      <Fields>
        <Select
          label="table"
          value={table}
          onChange={(next) => {
            choose(next);
            setGet([]);
          }}
          of={tables}
        />
        <Select label="where" value={own} onChange={setOwn} of={names(props.columns)} />
        <Select label="equals its" value={other} onChange={setOther} of={names(theirs)} />
      </Fields>
      <SomeOf label="Columns that come along" value={get} onChange={setGet} of={free} />
      {get.length === 0 && (
        <Quiet>Tick what comes along; then stands here how many rows find one, none or several.</Quiet>
      )}
      <OneOf
        label="Rows that find none"
        value={unmatched}
        onChange={setUnmatched}
        of={[
          ["keep", "keep rows that find none"],
          ["drop", "drop them"],
        ]}
      />
    </StepTray>
  );
}

export function StackTray(props: TrayProps) {
  const knowledge = useDeskState((state) => state.reply?.knowledge);
  const tables = [...(knowledge?.tables.keys() ?? [])].filter((name) => name !== props.table);
  const [chosen, setChosen] = useState<string[]>([]);
  return (
    <StepTray {...props} title="Add the rows of other tables" step={chosen.length ? { stack: chosen } : undefined}>
      <SomeOf label="Tables with the same columns" value={chosen} onChange={setChosen} of={tables} />
    </StepTray>
  );
}

export function SortTray(props: TrayProps) {
  const [by, setBy] = useState(props.marked[0] ?? props.columns[0]?.name ?? "");
  const [down, setDown] = useState<"up" | "down">("down");
  const [first, setFirst] = useState("");
  const rows = Math.round(Number(first));
  const sort: StepValue = { sort: [`${down === "down" ? "-" : ""}${writeName(by)}`] };
  return (
    <StepTray
      {...props}
      title={rows >= 1 ? "First rows" : "Sort"}
      step={rows >= 1 && by === "" ? { first: rows } : by ? sort : undefined}
    >
      <Fields>
        <Select
          label="by"
          value={by}
          onChange={setBy}
          of={[["", "— as they stand"], ...names(props.columns).map((own) => [own, own] as const)]}
        />
        <OneOf
          label="Direction"
          value={down}
          onChange={setDown}
          of={[
            ["down", "largest first"],
            ["up", "smallest first"],
          ]}
        />
      </Fields>
      {by === "" && (
        <Fields>
          <Field label="keep the first" type="number" value={first} onChange={setFirst} width={80} /> rows
        </Fields>
      )}
    </StepTray>
  );
}

export function SampleTray(props: TrayProps) {
  const [rows, setRows] = useState("500");
  const count = Math.round(Number(rows));
  return (
    <StepTray {...props} title="Sample" step={count >= 1 ? { sample: { rows: count, seed: 1 } } : undefined}>
      <Fields>
        <Field label="keep" type="number" value={rows} onChange={setRows} width={90} /> rows, the same in every build
      </Fields>
    </StepTray>
  );
}

/** Any step as its own text. */
export function TextTray(props: TrayProps) {
  const [text, setText] = useState("keep: ");
  const { tree } = readTree(text);
  const step = tree && typeof tree === "object" && !Array.isArray(tree) ? (tree as unknown as StepValue) : undefined;
  return (
    <StepTray {...props} title="A step as text" step={step}>
      <textarea
        aria-label="Text of the step"
        value={text}
        onChange={(event) => setText(event.target.value)}
        rows={3}
        spellCheck={false}
        style={{
          font: "13px/1.5 var(--mono)",
          background: "var(--sheet)",
          color: "var(--ink)",
          border: 0,
          borderBottom: "1px solid var(--ink)",
          padding: 6,
        }}
      />
    </StepTray>
  );
}
