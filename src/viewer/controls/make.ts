import { Kit } from "../../core/finding/kit";
import type { ControlPlan } from "../../core/plan/plan";
import type { App } from "../app";
import { whenPointerStays } from "../dom";
import type { ControlView } from "./control-view";

type Make = (app: App, control: never, host: HTMLElement) => ControlView;

/** Views of controls by what they are for and how they look: "pick menu", "set slider", "search". */
export const CONTROLS = new Kit<Make>("control");

/** The name of a control's view. */
export function lookOf(control: ControlPlan): string {
  if (control.type === "set" && control.several) return "set list";
  return "as" in control ? `${control.type} ${control.as}` : control.type;
}

/** The control in its place on the page. */
export function makeControl(app: App, control: ControlPlan, host: HTMLElement): ControlView {
  const view = CONTROLS.get(lookOf(control))(app, control as never, host);
  const { indexer } = view;
  if (indexer) {
    const take = () => app.warming.take([[control.name, indexer.call(view)]]);
    whenPointerStays(host, take);
    host.addEventListener("focusin", take);
  }
  return view;
}
