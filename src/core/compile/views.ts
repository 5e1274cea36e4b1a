import { nearest } from "../finding/nearest";
import type { SelectionPlan } from "../link/selection";
import { type PagePlan, PIECE_STATE, tabsAbove } from "../page/page";
import type { ControlPlan, Plan } from "../plan/plan";
import { addFinding, type Compiling } from "./compiling";

/** States that the author offers by name. A part that means nothing in this report is told. */
export function readViews(
  compiling: Compiling,
  controls: readonly ControlPlan[],
  selections: readonly SelectionPlan[],
  pages: readonly PagePlan[],
): Plan["views"] {
  const { views, charts, broken } = compiling.sheet;
  const areas = pages.flatMap((page) => [...tabsAbove(page).values()].flat().map(({ area }) => area));
  const known = new Set(["page", "side", ...controls.map(({ name }) => name), ...areas]);
  for (const { name } of selections) known.add(name);
  // What could not be read is there all the same; of it there is a finding already.
  for (const name of broken) known.add(name);
  for (const name of [...charts.keys(), ...controls.map((control) => control.name)])
    for (const part of PIECE_STATE) known.add(`${name}.${part}`);
  return Object.entries(views).map(([name, written]) => {
    const address = written.replace(/^[^#]*#/, "");
    for (const part of address.split("&").filter(Boolean)) {
      const key = decoded(part.split("=")[0] ?? "");
      if (known.has(key)) continue;
      const near = nearest(key, known);
      const hint = near ? `; did you mean ${near}?` : "";
      addFinding(compiling, ["views", name], "unknown-view", `the view names "${key}", which is nothing here${hint}`, {
        severity: "warning",
      });
    }
    return { name, address };
  });
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    // A broken escape is found wrong as the name that it makes.
    return text;
  }
}
