import type { Step } from "../steps/step";

/** What finding a way between tables has to know of one. */
export interface TableFamily {
  /** The table that it is made from. */
  from?: string;
  /** Look-up tables whose rows its own rows have found, by a join that no merging step follows. */
  ties?: readonly string[];
  /** Tables whose rows its steps stack under its own. */
  stacked?: readonly string[];
}

/** The tables that some steps stack. */
export const stackedIn = (steps: readonly Step[]): string[] =>
  steps.flatMap((step) => (step.do === "stack" ? step.tables : []));

/** What is known of tables by their names, where ties stand as keys with the columns that carry them. */
export function familiesOf(
  tables: readonly { name: string; from?: string; steps?: readonly Step[]; ties?: Readonly<Record<string, unknown>> }[],
): (name: string) => TableFamily | undefined {
  const families = new Map(
    tables.map(({ name, from, ties, steps }): [string, TableFamily] => [
      name,
      { ...(from === undefined ? {} : { from }), ties: Object.keys(ties ?? {}), stacked: stackedIn(steps ?? []) },
    ]),
  );
  return (name) => families.get(name);
}

/**
 * The way of a choice of rows from one table to another: up from the one to `up`, across if these
 * are two tables, and down from `down` to the other. The way across is a tie, or a stack: rows of `up`
 * stand among those of `down`, or the other way round.
 */
export interface Route {
  up: string;
  down: string;
  /** The table whose rows looked up, and the one in which they found. */
  tie?: { left: string; right: string };
  stack?: "into" | "out of";
  /** The choice comes to this look-up table first, by a way of its own, and goes on from there. */
  via?: string;
  /** The tie leads to this table, from which the choice goes up once more. */
  landed?: string;
}

/** The tables from a table up to the one that was read. */
export function pathUp(name: string, familyOf: (name: string) => TableFamily | undefined): string[] {
  const path = [name];
  for (let table = familyOf(name); table?.from !== undefined; table = familyOf(table.from)) path.push(table.from);
  return path;
}

/**
 * How a choice of rows of one table reaches another. Where one has the other's rows stacked under its
 * own, it reaches these; else tables with a common ancestor meet in the nearest; others where one of
 * them has looked something up in the other. Answers nothing where their rows have nothing to do with
 * each other. Where they meet in several ways the first of these counts.
 */
export function routeBetween(
  from: string,
  to: string,
  familyOf: (name: string) => TableFamily | undefined,
): Route | undefined {
  const [above, below] = [pathUp(from, familyOf), pathUp(to, familyOf)];
  const common = below.find((name) => above.includes(name));
  const apart = (path: readonly string[]) => (common === undefined ? path : path.slice(0, path.indexOf(common)));
  const isStacked = (outer: string, part: string) => familyOf(outer)?.stacked?.includes(part) === true;
  for (const up of apart(above)) {
    for (const down of apart(below)) {
      if (isStacked(down, up)) return { up, down, stack: "into" };
      if (isStacked(up, down)) return { up, down, stack: "out of" };
    }
  }
  if (common !== undefined) return { up: common, down: common };
  const isTied = (left: string, right: string) => familyOf(left)?.ties?.includes(right) === true;
  for (const up of above) {
    for (const down of below) {
      if (isTied(up, down)) return { up, down, tie: { left: up, right: down } };
      if (isTied(down, up)) return { up, down, tie: { left: down, right: up } };
    }
  }
  return routeByLookUp(above, below, familyOf) ?? routeByChain(above, below, familyOf);
}

/**
 * The way where a table looks up what was made of the other one: places that look up counts of their calls, say.
 * From the places it leads by the counts that they found to the calls in these, and from calls by way of the counts
 * to the places.
 */
function routeByLookUp(
  above: readonly string[],
  below: readonly string[],
  familyOf: (name: string) => TableFamily | undefined,
): Route | undefined {
  for (const up of above)
    for (const right of familyOf(up)?.ties ?? []) {
      const down = pathUp(right, familyOf).find((name) => below.includes(name));
      if (down !== undefined) return { up, down, tie: { left: up, right }, landed: right };
    }
  for (const down of below)
    for (const via of familyOf(down)?.ties ?? [])
      if (pathUp(via, familyOf).some((name) => above.includes(name)))
        return { up: via, down, tie: { left: down, right: via }, via };
  return undefined;
}

/**
 * The way along look-ups that follow one another: weighings look up hives, which have looked up their places. From
 * the places it leads to the hives and on to the weighings of these, and from weighings by way of their hives to the
 * places of these. It never turns round: tables that looked something up in the same one are not tied by that.
 */
function routeByChain(
  above: readonly string[],
  below: readonly string[],
  familyOf: (name: string) => TableFamily | undefined,
): Route | undefined {
  for (const down of below)
    for (const via of familyOf(down)?.ties ?? [])
      if (above.some((up) => looksUp(via, up, familyOf)))
        return { up: via, down, tie: { left: down, right: via }, via };
  for (const up of above)
    for (const via of familyOf(up)?.ties ?? []) {
      if (!below.some((down) => looksUp(via, down, familyOf))) continue;
      const rest = routeBetween(via, below[0] as string, familyOf);
      if (rest?.tie) return { ...rest, via: rest.via ?? via };
    }
  return undefined;
}

/** True if a table, or one that it is made of, looked something up in another, by itself or by way of others. */
function looksUp(name: string, other: string, familyOf: (name: string) => TableFamily | undefined): boolean {
  const found = pathUp(name, familyOf).flatMap((table) => familyOf(table)?.ties ?? []);
  return found.some((right) => right === other || looksUp(right, other, familyOf));
}

/**
 * A choice of rows carried across a tie. `match` has a place in the right table for every row of
 * the left one, below 0 or missing where it found none; such rows go with no choice of the right.
 */
export function passAcross(
  pass: Uint8Array,
  match: Int32Array | Float64Array,
  toLeft: boolean,
  length: number,
): Uint8Array {
  const across = new Uint8Array(length);
  for (let row = 0; row < match.length; row++) {
    const found = match[row] as number;
    if (!(found >= 0)) continue;
    if (toLeft) across[row] = pass[found] as number;
    else if (pass[row]) across[found] = 1;
  }
  return across;
}
