import { nearest } from "../../finding/nearest";
import type { AnyControlPlan, SearchControlPlan } from "../../plan/plan";
import type { Channel } from "../../query/query";
import { channelOf, nounOf } from "../channels";
import type { BuiltTable } from "../compiling";
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
  return columns && { type: "search", name: draft.name, label: draft.label, from: built.name, columns };
}

/** Checks a control with which readers ask freely. */
export function readAny(draft: ControlDraft): AnyControlPlan | undefined {
  const built = tableOf(draft);
  if (!built) return undefined;
  const { of } = draft.spec;
  if (of !== undefined && !Array.isArray(of))
    return wrongControl(draft, "of", "wrong-value", "columns are listed: of: [berth, tonnes]");
  const columns = channelsOf(draft, "of", built, of ?? [...built.table.columns.keys()]);
  return columns && { type: "any", name: draft.name, label: draft.label, from: built.name, columns };
}
