import type { Table } from "../table/table";
import { type Roles, rolesOf } from "./roles";
import { RULES, type Rule, type Suggestion } from "./rules";

/** So many charts are a first page, and the rows. */
const MOST = 6;

type Family = Rule["family"];

/** In which order families take turns on a page; one that stands twice has two looks there. */
function turnsOf({ position, places, measures, moments, groups, crowds, scores }: Roles): Family[] {
  if (position || places.length)
    return ["place", "figure", "time", "group", "group", "spread", "time", "cells", "together", "spread"];
  if (measures.length === 0 && moments.length > 0)
    return ["figure", "time", "cells", "group", "group", "group", "cells", "group"];
  if (measures.length === 0 || (groups.length + crowds.length + scores.length >= 3 && measures.length <= 1))
    return ["figure", "group", "group", "group", "cells", "time", "group", "spread", "together", "group"];
  if (groups.length + crowds.length === 0 && moments.length === 0)
    return ["figure", "spread", "together", "spread", "group", "spread", "spread"];
  return ["figure", "time", "group", "spread", "together", "group", "cells", "time", "together", "spread"];
}

/** First charts for a table that nobody has seen yet, the most telling first. Names are free of each other. */
export function suggestCharts(tableName: string, table: Table): Suggestion[] {
  if (table.rowCount === 0) return [];
  const roles = rolesOf(table);
  const looks = new Map(RULES.map(({ family, looks: of }) => [family, of(roles, tableName)]));
  const found: Suggestion[] = [];
  for (const family of turnsOf(roles)) {
    const next = found.length < MOST ? looks.get(family)?.shift() : undefined;
    if (next) found.push(next);
  }
  const rest = looks.get("rows") ?? [];
  // Where there is little to draw, what the columns hold says more.
  return [...found, ...(found.length < 4 ? rest : rest.slice(-1))];
}

/** Charts in which the columns stand that somebody has pressed, the plainest first. */
export function suggestFor(tableName: string, table: Table, chosen: readonly string[]): Suggestion[] {
  if (table.rowCount === 0) return [];
  const roles = rolesOf(table, chosen);
  // Rows are counted first; what they measure comes in where nobody has pressed a measure.
  const counted = { ...roles, measures: roles.measures.filter(({ name }) => chosen.includes(name)) };
  const found = new Map<string, Suggestion>();
  for (const own of [counted, roles])
    for (const { family, looks } of RULES)
      for (const look of family === "rows" ? [] : looks(own, tableName))
        if (chosen.every((name) => look.uses.includes(name)) && !found.has(JSON.stringify(look.spec)))
          found.set(JSON.stringify(look.spec), look);
  return [...found.values()].sort((a, b) => a.uses.length - b.uses.length).slice(0, MOST);
}
