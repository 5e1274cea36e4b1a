import { type LookSpec, needsNumber } from "./look";

export const slider = {
  name: "slider",
  says: "A number on a rail; it acts while it moves.",
  set: {
    fits: (setting) =>
      needsNumber("a slider")(setting) ?? (setting.ranged ? undefined : "a slider needs its ends: range: [from, to]"),
  },
} as const satisfies LookSpec;

export const stepper = {
  name: "stepper",
  says: "A number that is typed or stepped.",
  set: { fits: needsNumber("a stepper") },
} as const satisfies LookSpec;

export const toggle = {
  name: "switch",
  says: "On or off.",
  set: { fits: ({ kind }) => (kind === "boolean" ? undefined : "a switch sets true or false") },
} as const satisfies LookSpec;

export const color = {
  name: "color",
  says: "A colour.",
  set: { fits: ({ kind }) => (kind === "text" ? undefined : 'a colour is written as "#a07f1a"') },
} as const satisfies LookSpec;

export const text = {
  name: "text",
  says: "Words that are typed.",
  set: { fits: ({ kind }) => (kind === "text" ? undefined : "as: text sets a text") },
} as const satisfies LookSpec;

export const date = {
  name: "date",
  says: "A day: a date wherever the setting stands.",
  set: { fits: ({ kind }) => (kind === "text" ? undefined : "a day is written as 2024-03-01") },
} as const satisfies LookSpec;
