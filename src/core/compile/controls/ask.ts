import { nearest } from "../../finding/nearest";
import { CONDITION_TESTS, type Condition, type ConditionTest, testsOf } from "../../link/selection";
import type { AnyControlPlan, SearchControlPlan } from "../../plan/plan";
import type { Channel } from "../../query/query";
import { channelOf, nounOf } from "../channels";
import type { BuiltTable } from "../compiling";
import { nameOfWritten, valueNamed } from "../start";
import { type ControlDraft, tableOf, wrongControl } from "./draft";

/** Channels of columns by their names; says which of them the table does not have. */
function channelsOf(draft: ControlDraft, key: "search" | "of", built: BuiltTable, names: readonly string[]) {
  const channels: Channel[] = [];
  for (const name of names) {
    const kind = built.table.columns.get(name)?.kind;
    if (!kind) {
      const near = nearest(name, built.table.columns.keys());
      const hint = near ? `; did you mean ${near}?` : "";
      return wrongControl(draft, key, "unknown-column", `${built.name} has no column "${name}"${hint}`);
    }
    const checked = { formula: { type: "column", name } as const, kind, aggregate: false, constant: false };
    channels.push(channelOf(checked, nounOf(draft.compiling, built.name), built.table));
  }
  return channels;
}

/** Checks a control that looks for a text. */
export function readSearch(draft: ControlDraft): SearchControlPlan | undefined {
  const built = tableOf(draft);
  const columns = built && channelsOf(draft, "search", built, draft.spec.search ?? []);
  if (!columns) return undefined;
  const { start } = draft.spec;
  if (start !== undefined && typeof start !== "string")
    return wrongControl(draft, "start", "wrong-value", "a search starts with the text that is looked for");
  const plan: SearchControlPlan = { type: "search", name: draft.name, label: draft.label, from: built.name, columns };
  return start === undefined || start.trim() === "" ? plan : { ...plan, start: start.trim() };
}

/** Conditions that hold at first, as their columns know the values; nothing where one is found wrong. */
function startConditions(draft: ControlDraft, columns: readonly Channel[]): Condition[] | undefined {
  const { start } = draft.spec;
  if (start === undefined) return [];
  const wrong = (message: string) => wrongControl(draft, "start", "wrong-value", message);
  const found: Condition[] = [];
  for (const written of Array.isArray(start) ? start : [start]) {
    const { column = "", ...tests } = typeof written === "string" ? {} : (written as Record<string, string>);
    const [test, ...more] = Object.keys(tests);
    const channel = columns.find((one) => one.column === column);
    if (test === undefined || more.length || !CONDITION_TESTS.includes(test as ConditionTest))
      return wrong(`a condition is {column: berth, ${CONDITION_TESTS.join(" | ")}: value}`);
    if (!channel) return wrong(`the columns of ${draft.name} are ${columns.map((one) => one.column).join(", ")}`);
    if (!testsOf(channel.kind).includes(test as ConditionTest))
      return wrong(`${column} holds ${channel.kind}; it can be asked ${testsOf(channel.kind).join(", ")}`);
    const name = nameOfWritten(channel.kind, tests[test] as string);
    if (name === undefined) return wrong(`"${tests[test]}" is no ${channel.kind}, and ${column} holds ${channel.kind}`);
    found.push({ column, test: test as ConditionTest, value: valueNamed(channel.kind, name) });
  }
  return found;
}

/** Checks a control with which readers ask freely. */
export function readAny(draft: ControlDraft): AnyControlPlan | undefined {
  const built = tableOf(draft);
  if (!built) return undefined;
  const { of } = draft.spec;
  if (of !== undefined && !Array.isArray(of))
    return wrongControl(draft, "of", "wrong-value", "columns are listed: of: [berth, tonnes]");
  const columns = channelsOf(draft, "of", built, of ?? [...built.table.columns.keys()]);
  const start = columns && startConditions(draft, columns);
  if (!columns || !start) return undefined;
  const plan: AnyControlPlan = { type: "any", name: draft.name, label: draft.label, from: built.name, columns };
  return start.length ? { ...plan, start } : plan;
}
