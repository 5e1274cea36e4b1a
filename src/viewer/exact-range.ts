import { withDecimalMark } from "../core/formula/number-format";
import type { SelectionPlan, SelectionState } from "../core/link/selection";
import { withUnit } from "../core/query/write";
import { textNumber, typedPlain, typedText } from "./address";
import type { App } from "./app";
import { openDialog } from "./dialog";
import { button, element } from "./dom";

/** A range that readers can type: two fields over the page, one pair for each axis. */
export function typeRange(app: App, plan: SelectionPlan, opener: HTMLElement) {
  const state = app.model.engine.state(plan.name) ?? {};
  const axes = (["x", "y"] as const).filter((axis) => state[axis]);
  const fields = axes.map((axis) => {
    const words = plan.words[state.on?.[axis] ?? axis];
    const kind = words?.kind ?? "number";
    const ends = (state[axis] as [number, number]).map((end, at) =>
      element("input", {
        type: "text",
        value: kind === "number" ? withDecimalMark(String(end)) : typedText(kind, end),
        "aria-label": `${words?.label ?? axis} ${at ? "to" : "from"}`,
        size: "12",
      }),
    );
    return { axis, kind, ends, label: withUnit(words?.label ?? axis, words?.unit) };
  });
  const problem = element("p", { class: "notice", role: "alert" });
  const form = element("form", { method: "dialog" });
  for (const { ends, label } of fields)
    form.append(element("p", {}, `${label} `, ends[0] as Node, " to ", ends[1] as Node));
  form.append(
    problem,
    button("set", () => undefined, { type: "submit" }),
  );
  form.addEventListener("submit", (event) => {
    const next: SelectionState = { ...state };
    for (const { axis, kind, ends, label } of fields) {
      const [low, high] = ends.map(({ value }) => textNumber(kind, typedPlain(kind, value))) as [number, number];
      if (!(low < high)) {
        event.preventDefault();
        problem.textContent = `${label}: two ends are expected, the smaller first`;
        return;
      }
      next[axis] = [low, high];
    }
    app.select(plan.name, app.model.wholePeriods(plan, next));
    app.settle();
  });
  const dialog = openDialog("Exact values", "look-in exact", form);
  dialog.addEventListener("close", () => opener.focus());
  dialog.addEventListener("click", (event) => {
    if (event.target === dialog) dialog.close();
  });
  fields[0]?.ends[0]?.select();
}
