import type { Step } from "./step";

/** The name that a column has before the steps rename it. */
export function nameBefore(column: string, steps: readonly Step[]): string {
  return steps.reduceRight(
    (name, step) => (step.do === "rename" ? (step.names.find(([, to]) => to === name)?.[0] ?? name) : name),
    column,
  );
}
