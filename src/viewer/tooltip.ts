import type { TooltipLine } from "../core/chart/tooltip";
import { element } from "./dom";

/** The one tooltip of the page: a small table of label, value and unit. */
export class Tooltip {
  private readonly box = element("div", { class: "tip", role: "presentation", hidden: "" });

  constructor() {
    document.body.append(this.box);
  }

  show(lines: readonly (TooltipLine & { color?: string })[], caption: string, clientX: number, clientY: number) {
    if (lines.length === 0 && caption === "") return this.hide();
    const table = element("table");
    if (caption) table.append(element("caption", {}, caption));
    for (const { label, text, unit, color } of lines) {
      const name = element("td", {}, label);
      // A stroke of the series' colour; words in it would be too faint to read on some grounds.
      if (color) {
        name.classList.add("keyed");
        name.style.borderLeftColor = color;
      }
      if (label === "") {
        table.append(element("tr", {}, element("td", { colspan: "2" }, text)));
        continue;
      }
      const shown = text.length > 300 ? `${text.slice(0, 300)}…` : text;
      table.append(element("tr", {}, name, element("td", { class: "value" }, unit ? `${shown} ${unit}` : shown)));
    }
    this.box.replaceChildren(table);
    this.box.hidden = false;
    const { width, height } = this.box.getBoundingClientRect();
    const left = clientX + 14 + width > window.innerWidth ? clientX - 14 - width : clientX + 14;
    const top = clientY + 14 + height > window.innerHeight ? clientY - 14 - height : clientY + 14;
    this.box.style.left = `${Math.max(4, left)}px`;
    this.box.style.top = `${Math.max(4, top)}px`;
  }

  hide() {
    this.box.hidden = true;
  }

  remove() {
    this.box.remove();
  }
}
