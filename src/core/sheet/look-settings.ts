import type { z } from "zod";
import { chartSchema } from "./schema-charts";
import type { Path, Tree } from "./tree";

/** A look that a setting says: where it stands in its chart, and the setting. */
export interface SetLook {
  path: Path;
  setting: string;
}

/** A chart as it is under each value of the settings that say how it looks. */
export interface ChartVariants {
  settings: string[];
  looks: SetLook[];
  /** The values of those settings, as the sheet writes them, and the chart under them. */
  of: { values: string[]; tree: Tree }[];
}

/** Most variants of one chart. */
const MOST_VARIANTS = 60;

const SETTING = /^\$([a-z][a-z0-9_]*)$/;

type MapTree = { [key: string]: Tree };
const isMap = (tree: Tree | undefined): tree is MapTree =>
  typeof tree === "object" && tree !== null && !Array.isArray(tree);

const valueAt = (tree: Tree | undefined, path: Path): Tree | undefined =>
  path.reduce<Tree | undefined>(
    (found, key) => (typeof found === "object" && found !== null ? (found as MapTree)[key] : undefined),
    tree,
  );

/** A copy of a tree with another text at a path. */
function withValue(tree: Tree, [key, ...rest]: Path, value: string): Tree {
  if (key === undefined) return value;
  if (Array.isArray(tree)) return tree.map((item, at) => (at === key ? withValue(item, rest, value) : item));
  const map = tree as MapTree;
  return { ...map, [key]: withValue(map[key] as Tree, rest, value) };
}

/** Places at which a setting stands where the schema wants one of a few words, true or false, or a number. */
function setLooks(tree: Tree): SetLook[] {
  const result = chartSchema.safeParse(tree);
  if (result.success) return [];
  return result.error.issues.flatMap(({ path }: z.core.$ZodIssue) => {
    const value = valueAt(tree, path as Path);
    const setting = typeof value === "string" ? SETTING.exec(value)?.[1] : undefined;
    return setting === undefined ? [] : [{ path: path as Path, setting }];
  });
}

/** The values that a setting can have, the first the one that it starts with; nothing where no list closes them. */
function valuesOf(control: Tree | undefined): string[] | undefined {
  if (!isMap(control) || typeof control.set !== "string") return undefined;
  const { set, of } = control;
  const listed = Array.isArray(of)
    ? of
    : isMap(of)
      ? Object.keys(of)
      : ["true", "false"].includes(set)
        ? ["true", "false"]
        : [];
  const values = listed.filter((value): value is string => typeof value === "string");
  return values.includes(set) ? [set, ...values.filter((value) => value !== set)] : undefined;
}

/** Why a chart cannot be as it is under some values of its settings, if its other values are sound. */
export function variantProblem({ settings, looks, of }: ChartVariants): { problem: string; path: Path } | undefined {
  for (const { values, tree } of of) {
    const result = chartSchema.safeParse(tree);
    for (const { path, ...issue } of result.success ? [] : result.error.issues) {
      const look = looks.find((one) => one.path.join() === path.join());
      if (!look) continue;
      const value = values[settings.indexOf(look.setting)];
      const way =
        issue.code === "invalid_value"
          ? `is not one of ${issue.values.join(", ")}`
          : `cannot stand here: ${issue.message}`;
      return { path: look.path, problem: `"${value}", which $${look.setting} may be, ${way}` };
    }
  }
  return undefined;
}

const allOf = (lists: readonly string[][]): string[][] =>
  lists.reduce<string[][]>((rows, list) => rows.flatMap((row) => list.map((value) => [...row, value])), [[]]);

/**
 * A chart whose looks are settings (`draw: $mark`, `scale: $scale`), as it is under all of their values; nothing
 * where none is. A problem in words where a setting has no closed list, or there are too many of them.
 */
export function chartVariants(
  tree: Tree | undefined,
  controls: Tree | undefined,
): ChartVariants | { problem: string; path: Path } | undefined {
  if (!isMap(tree)) return undefined;
  const looks = setLooks(tree);
  if (looks.length === 0) return undefined;
  const settings = [...new Set(looks.map(({ setting }) => setting))];
  const lists: string[][] = [];
  for (const { setting, path } of looks) {
    const values = valuesOf(valueAt(controls, [setting]));
    if (!values)
      return {
        path,
        problem: `$${setting} cannot stand here: a control with set: and a closed list of: says what this may be`,
      };
    lists[settings.indexOf(setting)] = values;
  }
  const rows = allOf(lists);
  if (rows.length > MOST_VARIANTS)
    return {
      path: (looks[0] as SetLook).path,
      problem:
        `${settings.map((name) => `$${name}`).join(" and ")} make ` +
        `${rows.length} charts of this one; up to ${MOST_VARIANTS} can be`,
    };
  const of = rows.map((values) => ({
    values,
    tree: looks.reduce<Tree>(
      (made, { path, setting }) => withValue(made, path, values[settings.indexOf(setting)] as string),
      tree,
    ),
  }));
  return { settings, looks, of };
}
