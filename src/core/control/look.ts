import type { Channel } from "../query/query";

/** What is known of a setting before its look is chosen. */
export interface SettingDraft {
  kind: "number" | "text" | "boolean";
  /** The sheet says what it may be. */
  closed: boolean;
  /** The sheet says between which ends it lies. */
  ranged: boolean;
}

/** How a look picks rows: by values, by a range with two ends, or by a range with one. */
export interface PickLook {
  holds: "values" | "range" | "bound";
  /** The end that a bound holds; the other one is open. */
  end?: "low" | "high";
  /** The bound itself does not pass. */
  leavesOut?: true;
  /** More than one value may be picked. */
  many?: true;
  /** Why the values of a channel cannot be shown so. */
  fits(channel: Channel): string | undefined;
}

/** A look of controls: what it is for, and what it can show. Its view stands in the viewer, under the same name. */
export interface LookSpec {
  name: string;
  says: string;
  pick?: PickLook;
  set?: {
    /** Why a setting cannot be shown so. */
    fits(setting: SettingDraft): string | undefined;
  };
}

const isCategory = ({ kind }: Channel) => kind === "text" || kind === "boolean" || kind === "place";

/** Ranges and bounds need values that lie in an order. */
export function needsOrder(what: string): (channel: Channel) => string | undefined {
  return (channel) =>
    isCategory(channel)
      ? `${what} needs numbers or dates, and ${channel.text} holds ${channel.kind}; use checkboxes or menu`
      : undefined;
}

export const anyValues = (): undefined => undefined;

export const needsNumber =
  (what: string) =>
  ({ kind }: SettingDraft) =>
    kind === "number" ? undefined : `${what} sets a number`;

export const needsList =
  (what: string) =>
  ({ closed }: SettingDraft) =>
    closed ? undefined : `${what} needs its values: of: [...]`;
