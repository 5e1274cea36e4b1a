import { anyValues, type LookSpec, needsList } from "./look";

export const checkboxes = {
  name: "checkboxes",
  says: "A box for each value, with how many rows it would bring.",
  pick: { holds: "values", many: true, fits: anyValues },
} as const satisfies LookSpec;

export const menu = {
  name: "menu",
  says: "One value of a list; long ones can be typed into.",
  pick: { holds: "values", fits: anyValues },
  set: { fits: needsList("a menu") },
} as const satisfies LookSpec;

export const menus = {
  name: "menus",
  says: "Several values of a list that can be typed into.",
  pick: { holds: "values", many: true, fits: anyValues },
} as const satisfies LookSpec;

export const radio = {
  name: "radio",
  says: "One value, all of them in sight.",
  pick: { holds: "values", fits: anyValues },
  set: { fits: needsList("radio") },
} as const satisfies LookSpec;
