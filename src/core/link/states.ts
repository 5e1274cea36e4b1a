import { isEmptyState, type SelectionPlan, type SelectionState } from "./selection";

/** What is selected at the moment, and how often each selection has changed. */
export class SelectionStates {
  private readonly plans: Map<string, SelectionPlan>;
  private readonly states = new Map<string, SelectionState>();
  private readonly versions = new Map<string, number>();

  constructor(plans: readonly SelectionPlan[]) {
    this.plans = new Map(plans.map((plan) => [plan.name, plan]));
  }

  /** The plan of a selection that is known to be there. */
  plan(name: string): SelectionPlan {
    return this.plans.get(name) as SelectionPlan;
  }

  has(name: string): boolean {
    return this.plans.has(name);
  }

  get(name: string): SelectionState | undefined {
    return this.states.get(name);
  }

  set(name: string, state: SelectionState | undefined) {
    if (isEmptyState(state)) this.states.delete(name);
    else this.states.set(name, state as SelectionState);
    this.touch(name);
  }

  /** The selection may hold other rows than before, though it is the same. */
  touch(name: string) {
    this.versions.set(name, this.version(name) + 1);
  }

  isActive(name: string): boolean {
    return this.states.has(name);
  }

  version(name: string): number {
    return this.versions.get(name) ?? 0;
  }

  /** Names and versions of selections: equal texts mean equal choices of rows. */
  signature(names: readonly string[]): string {
    return names.map((name) => `${name}@${this.version(name)}`).join(" ");
  }

  names(): Iterable<string> {
    return this.plans.keys();
  }
}
