import type { CheckedKind } from "./scope";
import type { Formula } from "./tree";

/** What is known of a part of a formula. */
export interface Seen {
  kind: CheckedKind;
  aggregate: boolean;
  constant: boolean;
  /** Something in it is found wrong already. */
  broken?: boolean;
}

export const BROKEN: Seen = { kind: "missing", aggregate: false, constant: false, broken: true };

/** A part of some kind, made of others. */
export const join = (kind: CheckedKind, parts: readonly Seen[]): Seen => ({
  kind,
  aggregate: parts.some((part) => part.aggregate),
  constant: parts.every((part) => part.constant),
  broken: parts.some((part) => part.broken === true),
});

export const loose = (seen: Seen): boolean => seen.broken === true || seen.kind === "missing";

/** A kind as findings speak of one value of it. */
export const article = (kind: CheckedKind) =>
  kind === "missing" ? "missing" : kind === "boolean" ? "true or false" : `a ${kind}`;

/** Says what is wrong with a part of a formula, and what could be written in its place. */
export type Blame = (node: Formula, code: string, message: string, fix?: { title: string; text: string }) => void;
