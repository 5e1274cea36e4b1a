import { AGGREGATES } from "../formula/aggregate-names";
import type { StepSpec } from "../sheet/schema-tables";
import type { Path } from "../sheet/tree";
import { headsOf, readHead } from "../steps/pivot";
import type { HeadKind } from "../steps/step";
import { isAllMissing, kindOf } from "../table/column";
import type { Table } from "../table/table";
import { addFinding } from "./compiling";
import {
  columnNames,
  formulaAt,
  kindsIn,
  type ReadyStep,
  type StepPlace,
  unknownColumn,
  wrongStep,
} from "./step-place";

/** Beyond this many columns a pivot was hardly meant. */
const MOST_HEADS = 400;

export function unpivotStep(place: StepPlace, spec: NonNullable<StepSpec["unpivot"]>): ReadyStep | undefined {
  const path = [...place.path, "unpivot"];
  const columns = columnNames(place, [...path, "columns"], spec.columns as string[]);
  if (!columns) return undefined;
  if (columns.length === 0)
    return wrongStep(place, [...path, "columns"], "no-columns", "no column is left to be made long");
  const kinds = kindsIn(place.table, columns);
  if (kinds.length > 1)
    return wrongStep(
      place,
      [...path, "columns"],
      "kinds-differ",
      `these columns hold ${kinds.join(" and ")} (${oddOnes(place.table, columns)}); one ` +
        "column can hold one kind only, so say their type under columns: or leave some out",
    );
  const named =
    typeof spec.name === "string"
      ? ([[spec.name, "text"]] as [string, HeadKind][])
      : (Object.entries(spec.name) as [string, HeadKind][]);
  const [name, nameKind] = named[0] ?? ["", "text"];
  if (named.length !== 1)
    return wrongStep(
      place,
      [...path, "name"],
      "wrong-value",
      "name: is one name, or one name with how the heads are read: {year: number}",
    );
  if (!headsCanBeRead(place, path, columns, name, nameKind)) return undefined;
  const long = new Set(columns);
  const staying = [...place.table.columns.keys()].filter((column) => !long.has(column));
  for (const [key, wanted] of [
    ["name", name],
    ["value", spec.value],
  ] as const) {
    if (staying.includes(wanted) || (key === "value" && wanted === name))
      return wrongStep(place, [...path, key], "doubled-column", `${place.tableName} has a column "${wanted}" already`);
  }
  return {
    step: { do: "unpivot", columns, name, nameKind, value: spec.value },
    text: `unpivot ${columns.length} columns into ${name}, ${spec.value}`,
  };
}

/** Says which heads are none of the kind asked for, and become missing; false if none of them is. */
function headsCanBeRead(place: StepPlace, path: Path, heads: readonly string[], name: string, kind: HeadKind): boolean {
  if (kind === "text") return true;
  const unread = heads.filter((head) => Number.isNaN(readHead(head, kind)));
  if (unread.length === 0) return true;
  const named = unread.slice(0, 3).map((head) => `"${head}"`);
  const message =
    `${unread.length} of ${heads.length} heads cannot be read as a ${kind}: ` +
    `${named.join(", ")}${unread.length > 3 ? " and more" : ""}`;
  if (unread.length === heads.length) {
    wrongStep(place, [...path, "name"], "unread-heads", `${message}; as text they are kept: name: ${name}`);
    return false;
  }
  addFinding(place.compiling, [...path, "name"], "unread-heads", `${message}; their rows have none`, {
    severity: "warning",
    piece: `tables.${place.tableName}`,
  });
  return true;
}

/** The columns that are of another kind than most. */
function oddOnes(table: Table, columns: readonly string[]): string {
  const kinds = columns.map((name) => [name, kindsIn(table, [name])[0] as string] as const);
  const most = [...kinds].sort(
    (a, b) => kinds.filter(([, kind]) => kind === b[1]).length - kinds.filter(([, kind]) => kind === a[1]).length,
  )[0]?.[1];
  const odd = kinds.filter(([, kind]) => kind !== most);
  return `${odd
    .slice(0, 3)
    .map(([name, kind]) => `${name} ${kind}`)
    .join(", ")}${odd.length > 3 ? " and more" : ""}`;
}

export function pivotStep(place: StepPlace, spec: NonNullable<StepSpec["pivot"]>): ReadyStep | undefined {
  const path = [...place.path, "pivot"];
  const by = columnNames(place, [...path, "by"], spec.by);
  if (!place.table.columns.has(spec.name)) unknownColumn(place, [...path, "name"], spec.name);
  const value = formulaAt(place, [...path, "value"], spec.value, { rowFunctions: "none" });
  if (!by || !value || !place.table.columns.has(spec.name)) return undefined;
  const { formula } = value;
  if (formula.type !== "call" || !AGGREGATES.has(formula.name) || formula.name === "share")
    return wrongStep(
      place,
      [...path, "value"],
      "bare-column",
      "the value of a pivot is one aggregate, such as sum(tonnes) or first(remark)",
    );
  const heads = headsOf(place.table, spec.name);
  if (heads.length > MOST_HEADS)
    return wrongStep(
      place,
      [...path, "name"],
      "too-many-columns",
      `${spec.name} has ${heads.length} different values, and each would be a column; ${MOST_HEADS} is the most`,
    );
  const doubled = heads.find((head) => by.includes(head));
  if (doubled !== undefined)
    return wrongStep(
      place,
      [...path, "name"],
      "doubled-column",
      `"${doubled}" is a value of ${spec.name} and the name of a column too`,
    );
  return {
    step: { do: "pivot", by, name: spec.name, value: formula, heads },
    text: `pivot ${spec.name} into ${heads.length} columns`,
  };
}

const pairs = (spec: string | string[] | Record<string, string>): [string, string][] => {
  if (typeof spec === "string") return [[spec, spec]];
  return Array.isArray(spec) ? spec.map((name) => [name, name]) : Object.entries(spec);
};

export function joinStep(place: StepPlace, spec: NonNullable<StepSpec["join"]>): ReadyStep | undefined {
  const path = [...place.path, "join"];
  const right = place.other(spec.table, [...path, "table"]);
  if (!right) return undefined;
  let sound = true;
  const itemOf = (key: string, given: string | string[] | Record<string, string>, at: number, name: string): Path =>
    typeof given === "string" ? [...path, key] : [...path, key, Array.isArray(given) ? at : name];
  const on = pairs(spec.on);
  on.forEach(([own, theirs], at) => {
    const where = itemOf("on", spec.on, at, own);
    const [left, other] = [place.table.columns.get(own), right.columns.get(theirs)];
    if (!left) unknownColumn(place, where, own);
    if (!other) unknownColumn(place, where, theirs, right, spec.table);
    if (!left || !other) sound = false;
    else if (kindOf(left) !== kindOf(other)) {
      sound = false;
      wrongStep(
        place,
        where,
        "kinds-differ",
        `${own} holds ${kindOf(left)} and ${theirs} of ${spec.table} holds ` +
          `${kindOf(other)}; nothing can be equal. Say the type of one of them under columns:`,
      );
    }
  });
  // Patterns are of the look-up table; what is looked up by needs not come along again.
  const names = Array.isArray(spec.get) ? columnNames(place, [...path, "get"], spec.get, right, spec.table) : undefined;
  const get: [string, string][] = Array.isArray(spec.get)
    ? (names ?? []).map((name) => [name, name])
    : Object.entries(spec.get);
  if (Array.isArray(spec.get) && !names) sound = false;
  get.forEach(([name, theirs], at) => {
    const where = itemOf("get", spec.get, at, name);
    if (!right.columns.has(theirs)) {
      sound = false;
      unknownColumn(place, where, theirs, right, spec.table);
    } else if (place.table.columns.has(name)) {
      sound = false;
      wrongStep(
        place,
        where,
        "doubled-column",
        `${place.tableName} has a column "${name}" already; give it ` +
          `another name: {${name}_of_${spec.table}: ${theirs}}`,
      );
    }
  });
  return sound
    ? {
        step: { do: "join", table: spec.table, on, get, unmatched: spec.unmatched ?? "keep" },
        text: `join ${spec.table} on ${on.map(([own]) => own).join(", ")}`,
      }
    : undefined;
}

export function stackStep(place: StepPlace, spec: string | string[]): ReadyStep | undefined {
  const names = Array.isArray(spec) ? spec : [spec];
  let sound = true;
  names.forEach((name, at) => {
    const path = Array.isArray(spec) ? [...place.path, "stack", at] : [...place.path, "stack"];
    const other = place.other(name, path);
    const problem = other && stackProblem(place.table, other, name, place.tableName);
    if (problem !== undefined) wrongStep(place, path, "columns-differ", problem);
    if (!other || problem !== undefined) sound = false;
  });
  return sound ? { step: { do: "stack", tables: names }, text: `stack ${names.join(", ")}` } : undefined;
}

/** Why the rows of one table cannot stand under those of another. */
export function stackProblem(table: Table, other: Table, name: string, own: string): string | undefined {
  const lacking = [...table.columns.keys()].filter((column) => !other.columns.has(column));
  if (lacking.length)
    return (
      `${name} lacks ${lacking.slice(0, 5).join(", ")}; tables that are stacked, or ` +
      "chosen among, have the same columns (only:, add: and rename: make them so)"
    );
  const more = [...other.columns.keys()].filter((column) => !table.columns.has(column));
  if (more.length)
    return (
      `${name} also has ${more.slice(0, 5).join(", ")}, which ${own} lacks; ` +
      "tables that are stacked, or chosen among, have the same columns"
    );
  for (const [column, left] of table.columns) {
    const right = other.columns.get(column);
    if (right && kindOf(right) !== kindOf(left) && !isAllMissing(left) && !isAllMissing(right))
      return `${column} holds ${kindOf(left)} here and ${kindOf(right)} in ${name}`;
  }
  return undefined;
}
