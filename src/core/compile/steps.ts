import { AGGREGATES } from "../formula/aggregate-names";
import { seedDraws } from "../formula/draws";
import { printFormula } from "../formula/print";
import { type Formula, partsOf, settingsOf } from "../formula/tree";
import { setValue } from "../sheet/edit/edit";
import { STEP_KEYS, type StepSpec } from "../sheet/schema-tables";
import type { Path } from "../sheet/tree";
import { formulasOfStep } from "../steps/run";
import type { NamedResult, Step } from "../steps/step";
import { addFinding } from "./compiling";
import { densityStep, smoothStep, wordsStep } from "./curve-steps";
import { joinStep, pivotStep, stackStep, unpivotStep } from "./shape-steps";
import {
  asList,
  columnNames,
  formulaAt,
  keysBy,
  type ReadyStep,
  type StepPlace,
  sortKeys,
  unknownColumn,
  wrongStep,
} from "./step-place";

/** Checks one step against the columns it finds. Answers nothing where it cannot run. */
export function readyStep(place: StepPlace, spec: StepSpec): ReadyStep | undefined {
  const { path } = place;
  const key = STEP_KEYS.find((name) => spec[name] !== undefined);
  const within = spec.within ? columnNames(place, [...path, "within"], spec.within) : [];
  const order = spec.order ? sortKeys(place, [...path, "order"], spec.order) : [];
  if (!key || !within || !order) return undefined;
  if (spec.order && !["keep", "add", "fill_forward"].includes(key))
    return wrongStep(
      place,
      [...path, "order"],
      "wrong-key",
      `order goes with keep, add and fill_forward, not with ${key}`,
    );
  if (spec.within && !["keep", "add", "fill_forward", "first", "last"].includes(key))
    return wrongStep(
      place,
      [...path, "within"],
      "wrong-key",
      `within goes with keep, add, first, last and fill_forward, not with ${key}`,
    );
  const said = (text: string) => `${text}${within.length ? ` within ${within.join(", ")}` : ""}`;
  if (spec.keep !== undefined) {
    const test = formulaAt(place, [...path, "keep"], spec.keep, { wanted: "boolean" });
    return (
      test && {
        step: { do: "keep", test: seeded(place, test.formula), within, order },
        text: said(`keep ${spec.keep}`),
      }
    );
  }
  if (spec.add) {
    const columns = addedColumns(place, spec.add);
    return columns && { step: { do: "add", columns, within, order }, text: `add ${Object.keys(spec.add).join(", ")}` };
  }
  if (spec.fill_forward) {
    const columns = columnNames(place, [...path, "fill_forward"], spec.fill_forward);
    return (
      columns && {
        step: { do: "fill_forward", columns, within, order },
        text: said(`fill forward ${columns.join(", ")}`),
      }
    );
  }
  if (spec.first !== undefined || spec.last !== undefined) {
    const end = spec.first === undefined ? "last" : "first";
    const rows = spec[end] as string;
    const count = formulaAt(place, [...path, end], rows, { wanted: "number" });
    return count && { step: { do: end, rows: count.formula, within }, text: said(`${end} ${rows}`) };
  }
  return plainStep(place, spec);
}

/** Steps that know nothing of groups and orders beside them. */
function plainStep(place: StepPlace, spec: StepSpec): ReadyStep | undefined {
  const { path, table } = place;
  if (spec.only || spec.drop) {
    const key = spec.only ? "only" : "drop";
    const names = columnNames(place, [...path, key], (spec.only ?? spec.drop) as string[]);
    if (!names) return undefined;
    const dropped = new Set(names);
    const columns = key === "only" ? names : [...table.columns.keys()].filter((name) => !dropped.has(name));
    return { step: { do: "only", columns }, text: `${key} ${names.join(", ")}` };
  }
  if (spec.rename) return renameStep(place, spec.rename);
  if (spec.unique) {
    const columns =
      spec.unique === "all" ? [...table.columns.keys()] : columnNames(place, [...path, "unique"], spec.unique);
    return (
      columns && {
        step: { do: "unique", columns },
        text: spec.unique === "all" ? "unique rows" : `unique by ${columns.join(", ")}`,
      }
    );
  }
  if (spec.group) return groupStep(place, spec.group);
  if (spec.sort) {
    const keys = sortKeys(place, [...path, "sort"], spec.sort);
    return keys && { step: { do: "sort", keys }, text: `sort by ${asList(spec.sort).join(", ")}` };
  }
  if (spec.sample) {
    const rows = formulaAt(place, [...path, "sample", "rows"], spec.sample.rows, { wanted: "number" });
    return (
      rows && {
        step: { do: "sample", rows: rows.formula, seed: movingSeed(place, spec.sample.seed ?? 1) },
        text: `sample of ${spec.sample.rows}`,
      }
    );
  }
  if (spec.unpivot) return unpivotStep(place, spec.unpivot);
  if (spec.pivot) return pivotStep(place, spec.pivot);
  if (spec.join) return joinStep(place, spec.join);
  if (spec.stack) return stackStep(place, spec.stack);
  if (spec.fill) return fillStep(place, spec.fill);
  if (spec.smooth) return smoothStep(place, spec.smooth);
  if (spec.density) return densityStep(place, spec.density);
  return spec.words && wordsStep(place, spec.words);
}

/** A seed that moves on whenever a reader has the table drawn anew. */
const movingSeed = ({ redraws }: StepPlace, seed: number): Formula =>
  redraws.reduce<Formula>((left, name) => ({ type: "binary", operator: "+", left, right: { type: "setting", name } }), {
    type: "number",
    value: seed,
  });

const seeded = (place: StepPlace, formula: Formula) =>
  seedDraws(formula, movingSeed(place, place.seed), place.nextDraw);

function addedColumns(place: StepPlace, spec: Record<string, string>): NamedResult[] | undefined {
  // Each column sees those above it, so kinds are gathered as they come.
  const seen = { ...place, table: place.table };
  const columns: NamedResult[] = [];
  let sound = true;
  for (const [name, text] of Object.entries(spec)) {
    const checked = formulaAt(seen, [...place.path, "add", name], text);
    if (!checked) {
      sound = false;
      continue;
    }
    columns.push({ name, formula: seeded(place, checked.formula) });
    const kinds = new Map(seen.table.columns);
    kinds.set(
      name,
      checked.kind === "text" || checked.kind === "place"
        ? { kind: "text", codes: new Int32Array(0), dictionary: [], place: checked.kind === "place" }
        : { kind: checked.kind, values: new Float64Array(0) },
    );
    seen.table = { ...seen.table, columns: kinds };
  }
  return sound ? columns : undefined;
}

/** New names that stand before the old ones. */
function turnedRound(place: StepPlace, path: Path, spec: Record<string, string>) {
  const { source } = place.compiling.sheet;
  const right = Object.entries(spec).map(([from, to]) => (place.table.columns.has(from) ? [from, to] : [to, from]));
  const says = `the old name stands first: {${right.map((pair) => pair.join(": ")).join(", ")}}`;
  const edits = setValue(source.text, path, Object.fromEntries(right));
  addFinding(place.compiling, path, "wrong-order", says, {
    piece: `tables.${place.tableName}`,
    ...(edits ? { fix: { title: "turn the names round", edits } } : {}),
  });
}

function renameStep(place: StepPlace, spec: Record<string, string>): ReadyStep | undefined {
  const { path, table, tableName } = place;
  let sound = true;
  const taken = new Set([...table.columns.keys()].filter((name) => !Object.hasOwn(spec, name)));
  for (const [from, to] of Object.entries(spec)) {
    if (!table.columns.has(from)) {
      sound = false;
      if (table.columns.has(to)) turnedRound(place, [...path, "rename"], spec);
      else unknownColumn(place, [...path, "rename", from], from);
    } else if (taken.has(to)) {
      sound = false;
      wrongStep(place, [...path, "rename", from], "doubled-column", `${tableName} has a column "${to}" already`);
    }
    taken.add(to);
  }
  return sound
    ? {
        step: { do: "rename", names: Object.entries(spec) },
        text: `rename ${Object.entries(spec)
          .map(([from, to]) => `${from} to ${to}`)
          .join(", ")}`,
      }
    : undefined;
}

function groupStep(place: StepPlace, spec: NonNullable<StepSpec["group"]>): ReadyStep | undefined {
  const { path } = place;
  const by = keysBy(place, [...path, "group", "by"], spec.by);
  let sound = by !== undefined;
  const keys = new Set(by?.map(({ formula }) => printFormula(formula)));
  const get: NamedResult[] = [];
  for (const [name, text] of Object.entries(spec.get ?? {})) {
    const inner = [...path, "group", "get", name];
    const checked = formulaAt(place, inner, text, { rowFunctions: "none" });
    if (!checked) {
      sound = false;
      continue;
    }
    const bare = bareColumn(checked.formula, keys);
    if (bare !== undefined || (!checked.aggregate && !checked.constant && !keys.has(printFormula(checked.formula)))) {
      sound = false;
      wrongStep(
        place,
        inner,
        "bare-column",
        `${bare ?? text} has several values in a group; take one with sum(), mean(), first() or another aggregate`,
      );
    } else if (by?.some((key) => key.name === name)) {
      sound = false;
      wrongStep(place, inner, "doubled-column", `"${name}" is the name of a key already`);
    } else get.push({ name, formula: checked.formula });
  }
  return sound && by ? { step: { do: "group", by, get }, text: `group by ${asList(spec.by).join(", ")}` } : undefined;
}

/** What stands in place of missing: in text columns the words themselves, elsewhere a formula. */
function fillStep(place: StepPlace, spec: Record<string, string>): ReadyStep | undefined {
  const values: NamedResult[] = [];
  let sound = true;
  for (const [name, text] of Object.entries(spec)) {
    const path = [...place.path, "fill", name];
    const column = place.table.columns.get(name);
    if (!column) {
      sound = false;
      unknownColumn(place, path, name);
      continue;
    }
    if (column.kind === "text" && !text.startsWith("$")) {
      values.push({ name, formula: { type: "text", value: text } });
      continue;
    }
    const checked = formulaAt(place, path, text);
    if (checked && checked.kind === column.kind) values.push({ name, formula: checked.formula });
    else {
      sound = false;
      if (checked)
        wrongStep(
          place,
          path,
          "wrong-kind",
          `${name} holds ${column.kind}, so it cannot be filled with a ` +
            `${checked.kind}${column.kind === "date" || column.kind === "datetime" ? `; write ${column.kind}("2024-03-01")` : ""}`,
        );
    }
  }
  return sound
    ? {
        step: { do: "fill", values },
        text: `fill ${Object.entries(spec)
          .map(([name, text]) => `${name} with ${text}`)
          .join(", ")}`,
      }
    : undefined;
}

/** A column, or a mark of rows, that stands beside an aggregate without being a key: it has no one value there. */
export function bareColumn(formula: Formula, keys: ReadonlySet<string>): string | undefined {
  if (keys.has(printFormula(formula))) return undefined;
  if (formula.type === "column") return formula.name;
  if (formula.type === "picked") return `picked(${formula.selection})`;
  if (formula.type === "call" && AGGREGATES.has(formula.name)) return undefined;
  for (const part of partsOf(formula)) {
    const bare = bareColumn(part, keys);
    if (bare !== undefined) return bare;
  }
  return undefined;
}

/** True if a step's formulas read a setting. */
export function usesSettings(step: Step): boolean {
  return formulasOfStep(step).some((formula) => settingsOf(formula).size > 0);
}
