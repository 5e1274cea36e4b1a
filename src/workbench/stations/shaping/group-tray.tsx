"use client";

import { useState } from "react";
import { writeName } from "../../../core/formula/words";
import type { KnownColumn } from "../../../core/sheet/assist/knowledge";
import { Quiet, Word } from "../../frame/kit";
import { Fields, Select, StepTray, type TrayProps } from "./tray-kit";

/** What a column can be in a group, as it is written and in words; `key` makes the groups. */
const ROLES = {
  key: "one row for each",
  by_day: "one row for each day",
  by_week: "one row for each week",
  by_month: "one row for each month",
  by_year: "one row for each year",
  sum: "added up",
  mean: "its mean",
  median: "its median",
  min: "the least",
  max: "the most",
  distinct: "how many different",
  first: "the first",
} as const;

type Role = keyof typeof ROLES;

const isKey = (role: Role) => role === "key" || role.startsWith("by_");

/** What a column of a kind can be, what it mostly is at first. */
function rolesFor(kind: KnownColumn["kind"]): readonly Role[] {
  if (kind === "number") return ["sum", "mean", "median", "min", "max", "distinct", "key"];
  if (kind === "duration") return ["mean", "sum", "median", "min", "max", "key"];
  if (kind === "date") return ["by_month", "key", "by_week", "by_year", "min", "max", "distinct"];
  if (kind === "datetime") return ["by_month", "by_day", "by_week", "by_year", "key", "min", "max", "distinct"];
  return ["key", "distinct", "first"];
}

/** How the column of a measure is called: as its own, where it is added up. */
const nameOf = (column: string, role: Role) =>
  role === "sum" ? column : `${role === "distinct" ? "different" : role}_${column}`;

/**
 * Groups are made by pressing the heads of the rows below: texts and days make them, numbers are added up; what
 * each becomes can be said otherwise beside its name.
 */
export function GroupTray(props: TrayProps) {
  const [said, setSaid] = useState<Readonly<Record<string, Role>>>({});
  const own = props.marked.flatMap((name) => props.columns.find((column) => column.name === name) ?? []);
  const roles = own.map(({ name, kind }) => said[name] ?? (rolesFor(kind)[0] as Role));
  const by = own.flatMap(({ name }, at) => {
    const role = roles[at] as Role;
    if (!isKey(role)) return [];
    return role === "key" ? [writeName(name)] : [`${role}(${writeName(name)}) as ${role.slice(3)}`];
  });
  const measures = own.flatMap(({ name }, at): [string, string][] => {
    const role = roles[at] as Role;
    return isKey(role) ? [] : [[nameOf(name, role), `${role}(${writeName(name)})`]];
  });
  const get = Object.fromEntries([["rows", "count()"], ...measures]);
  return (
    <StepTray {...props} title="Group" step={by.length ? { group: { by, get } } : undefined}>
      <Quiet>
        {own.length
          ? "Press more heads below, or one again to leave it out; the rows of each group are counted."
          : "Press heads below: texts and days make the groups, numbers are added up in them."}
      </Quiet>
      {own.length > 0 && by.length === 0 && <Quiet role="status">Nothing makes groups yet.</Quiet>}
      <Fields>
        {own.map(({ name, kind }, at) => (
          <Select
            key={name}
            label={name}
            value={roles[at] as Role}
            of={rolesFor(kind).map((role) => [role, ROLES[role]] as const)}
            onChange={(role) => setSaid({ ...said, [name]: role as Role })}
          />
        ))}
        {own.length > 0 && <Word onPress={() => props.mark([])}>none of them</Word>}
      </Fields>
    </StepTray>
  );
}
