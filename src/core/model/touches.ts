import type { LayerPlan } from "../chart/plan";
import { familiesOf, routeBetween } from "../link/route";
import type { SelectionPlan } from "../link/selection";
import type { Plan } from "../plan/plan";

const known = new WeakMap<Plan["tables"], ReturnType<typeof familiesOf>>();

/**
 * Whether a selection says anything of a layer: of one with rows of another family, or with none as a rule at a
 * limit has, it does not, and leaves it as it is.
 */
export function touches({ tables }: Plan, selection: SelectionPlan | undefined, { query }: LayerPlan): boolean {
  if (!selection || Object.values(query.channels).every(({ constant }) => constant)) return false;
  // Asked for each layer at every move of a brush; tables of a dashboard do not change.
  let familyOf = known.get(tables);
  if (!familyOf) {
    familyOf = familiesOf(tables);
    known.set(tables, familyOf);
  }
  return routeBetween(selection.table, query.from, familyOf) !== undefined;
}
