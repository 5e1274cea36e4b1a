import { freeName } from "../advice/write-suggestions";
import { isOfAll } from "../chart/figure-texts";
import { queriesOf } from "../chart/piece-formulas";
import type { DataTablePlan, FigurePlan, NotePlan, PiecePlan } from "../chart/plan";
import type { Plan, PlanPiece } from "../plan/plan";
import { isSummed } from "../query/summed";
import type { ChartSpec } from "../sheet/schema-charts";
import { type Column, gather } from "../table/column";
import { oneAfterTheOther } from "../table/one-after-other";
import { makeTable, type Table } from "../table/table";
import { regroupChart } from "./chart-groups";
import { ColumnNames, type GroupTable, type GroupWriter } from "./group-writer";
import { wordChanges } from "./regrouped-words";
import { livePart, newSource, type Regrouped, type Regrouping, writerOf } from "./regrouping";

/** True for a piece whose groups were packed in place of rows. */
export const isFinished = ({ plan, live }: PlanPiece): boolean =>
  [...queriesOf(plan), ...(live ? [live.query] : [])].some(({ finished }) => finished !== undefined);

/** What a sheet says of a piece, drawn from what was packed of it. */
export function regroup(regrouping: Regrouping, spec: ChartSpec | undefined): Regrouped {
  const { plan } = regrouping.piece;
  if (plan.type === "note") return regroupNote(regrouping, plan);
  const { tables, changes } = regroupDrawn(regrouping, plan, spec as ChartSpec);
  return { tables, changes: [...changes, ...wordChanges(regrouping)] };
}

function regroupDrawn(regrouping: Regrouping, plan: PiecePlan, spec: ChartSpec): Regrouped {
  if (plan.type === "chart") return regroupChart(regrouping, plan, spec);
  if (plan.type === "table") return regroupList(regrouping, plan, spec);
  if (plan.type === "figure") return regroupFigure(regrouping, plan);
  throw new Error(`${plan.type} is of no groups`);
}

function regroupNote(regrouping: Regrouping, { query, text }: NotePlan): Regrouped {
  const { piece, model } = regrouping;
  const names = new ColumnNames();
  const writer = writerOf(regrouping, model.askedBy(piece.name)[0], names);
  const path = ["notes", piece.name];
  const get = new Map(Object.keys(query.channels).map((name) => [name, writer.formula(name)]));
  const inWords = livePart(regrouping, names);
  // A formula in the text stood for a value that has a name now.
  const named = new Map<string, string>();
  const written = text.replace(/\{([^{}]*)\}/g, (whole, inside: string) => {
    const [part] = piece.live?.parts[inside.trim()] ?? [];
    if (!inWords || typeof part !== "object" || !("channel" in part)) return whole;
    const name = named.get(part.channel) ?? freeName("value", new Set(get.keys()));
    named.set(part.channel, name);
    get.set(name, inWords.formula(part.channel));
    return `{${name}}`;
  });
  const name = regrouping.nameTable();
  const table = inWords ? beside(inWords.table(name), writer) : writer.table(name);
  const changes = [...get].map(([key, value]) => ({ path: [...path, "get", key], value }));
  return {
    tables: [table],
    changes: [
      { path: [...path, "from"], value: table.name },
      ...changes,
      ...(written === text ? [] : [{ path: [...path, "text"], value: written }]),
    ],
  };
}

/** A table of one row with the columns of another beside its own. */
function beside(table: GroupTable, other: GroupWriter): GroupTable {
  if (other.columns.size === 0) return table;
  const own = other.table(table.name);
  return {
    name: table.name,
    table: makeTable(1, [...own.table.columns, ...table.table.columns]),
    columns: { ...own.columns, ...table.columns },
  };
}

function regroupFigure(regrouping: Regrouping, { query, spark }: FigurePlan): Regrouped {
  const { piece, model } = regrouping;
  const path = ["charts", piece.name];
  const [asked] = model.askedBy(piece.name);
  const names = new ColumnNames();
  const whole = writerOf(regrouping, asked, names);
  const line = spark && writerOf(regrouping, { query: spark, options: { fillAlong: "x" }, filters: [] }, names);
  const changes = Object.entries(query.channels).map(([key, { formula, aggregate }]) => {
    const value = figureFormula(key, aggregate, whole, line);
    return { path: [...path, key], value: isOfAll(formula) ? `${value} of all` : value };
  });
  if (line) {
    for (const channel of Object.keys(line.channels)) line.formula(channel);
    changes.push({ path: [...path, "spark"], value: line.formula("x") });
  }
  const name = regrouping.nameTable();
  const table = line
    ? behind(line.table(name), whole.columns.size > 0 ? whole.table(name) : undefined)
    : whole.table(name);
  return { tables: [table], changes: [...newSource(path, table), ...changes] };
}

/**
 * What a figure says over one table of its groups. With a small line that is the line's: a sum is the sum of these,
 * so that it is still known to be one; any other number stands in a row behind them.
 */
function figureFormula(key: string, aggregate: boolean, whole: GroupWriter, line: GroupWriter | undefined): string {
  if (!line || !aggregate) return whole.formula(key);
  if (key !== "value") return whole.behind(key);
  return isSummed(line.channels.value) ? line.formula(key) : whole.formula(key).replace(/^\w+/, "last");
}

/** The groups of a small line, and behind them those of its figure, which stand at no place along the line. */
function behind(line: GroupTable, whole: GroupTable | undefined): GroupTable {
  if (!whole) return line;
  const count = line.table.rowCount + whole.table.rowCount;
  const names = new Set([...line.table.columns.keys(), ...whole.table.columns.keys()]);
  const columns = [...names].map((name) => [name, columnsBehind(line.table, whole.table, name)] as const);
  return { ...line, table: makeTable(count, columns), columns: { ...whole.columns, ...line.columns } };
}

/** One column behind another, missing where a table has none. */
function columnsBehind(first: Table, second: Table, name: string): Column {
  const [above, below] = [first.columns.get(name), second.columns.get(name)];
  if (above) return oneAfterTheOther(above, below, second.rowCount);
  const rows = Int32Array.from({ length: first.rowCount + second.rowCount }, (_, row) => row - first.rowCount);
  return gather(
    below as Column,
    rows.map((row) => Math.max(-1, row)),
  );
}

function regroupList(regrouping: Regrouping, { columns, totals }: DataTablePlan, spec: ChartSpec): Regrouped {
  const { piece, model } = regrouping;
  const path = ["charts", piece.name];
  const writer = writerOf(regrouping, model.askedBy(piece.name)[0], new ColumnNames());
  const value = columns.map(({ channel, key }) => writer.shown(channel, key));
  const table = writer.table(regrouping.nameTable());
  // A list without a title of its own has that of its rows, which are others now.
  const title = spec.title === undefined ? [{ path: [...path, "title"], value: piece.words.title }] : [];
  const dropped = spec.identity === undefined ? [] : [{ path: [...path, "identity"] }];
  // Numbers of groups add up, whatever they are: which of them did is said by name.
  const added = columns.flatMap(({ key, adds }) => (adds ? [key] : []));
  const sums = totals ? [{ path: [...path, "totals"], value: added }] : [];
  return {
    tables: [table],
    changes: [...newSource(path, table), ...dropped, ...title, { path: [...path, "columns"], value }, ...sums],
  };
}

/** What the rows of a table are called. */
export const nounOf = ({ tables }: Plan, table: string): string =>
  tables.find(({ name }) => name === table)?.label ?? table.replaceAll("_", " ");
