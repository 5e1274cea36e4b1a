import type { PlanPiece } from "../core/plan/plan";
import { paintOf } from "../core/scene/theme";
import { type App, nameText } from "./app";
import { element, svgPart } from "./dom";

/** The legend of a chart: each entry is a switch; pressed twice it is left alone. */
export class Legend {
  private readonly buttons: { name: string | null; button: HTMLButtonElement }[] = [];

  constructor(
    private readonly app: App,
    private readonly piece: PlanPiece,
    host: HTMLElement,
  ) {
    const { plan } = piece;
    const color = app.model.colorScale(piece.name);
    if (plan.type !== "chart" || color?.type !== "categories") return;
    if (plan.legend.press === "nothing") return;
    host.classList.toggle("fades", plan.legend.press === "fade");
    host.replaceChildren(
      ...color.names.map((name, at) => {
        const button = element("button", {
          type: "button",
          "aria-pressed": "true",
          title: `press to ${plan.legend.press === "fade" ? "fade" : "remove"} or bring back; press twice, or with Shift, to see it alone`,
        });
        const square = svgPart("svg", { viewBox: "0 0 10 10", "aria-hidden": "true" });
        square.append(svgPart("path", { d: "M0 0h10v10H0z", fill: paintOf(color.paints[at] as string, app.ground) }));
        button.append(square, nameText(name));
        button.addEventListener("click", (event) =>
          event.shiftKey ? this.alone(name, color.names) : this.press(name),
        );
        button.addEventListener("dblclick", () => this.alone(name, color.names));
        this.buttons.push({ name, button });
        return button;
      }),
    );
  }

  private press(name: string | null) {
    const off = this.app.offOf(this.piece.name);
    if (off.has(name)) off.delete(name);
    else off.add(name);
    this.changed();
  }

  private alone(name: string | null, names: readonly (string | null)[]) {
    const off = this.app.offOf(this.piece.name);
    off.clear();
    for (const other of names) if (other !== name) off.add(other);
    this.changed();
  }

  private changed() {
    this.app.followLegend(this.piece.name);
    this.app.touch(this.piece.name);
    this.app.settle();
  }

  draw() {
    const off = this.app.offOf(this.piece.name);
    for (const { name, button } of this.buttons) button.setAttribute("aria-pressed", String(!off.has(name)));
  }
}
