import type { Scalar } from "../table/column";

/** What something is under each value of the settings by which a reader chooses it. */
export interface Choices<T> {
  settings: string[];
  /** By the values of those settings, as {@link choiceKey} writes them. */
  of: Record<string, T>;
}

export const choiceKey = (values: readonly Scalar[]): string => JSON.stringify(values);
