import { writeCount } from "../../core/formula/format";
import { element } from "../dom";
import { type MenuItem, menuButton } from "../menu";
import { TAKE_WORDS, takeBy } from "../table/take";
import { chartTable } from "./chart-rows";
import { lookIn } from "./look-in";
import { takePng, takeSvg } from "./picture";
import type { PlotView } from "./plot-view";

/** What a reader can do with a chart: look closer, fit it, look at its rows, take them or its picture. */
export function chartMenu(view: PlotView, section: HTMLElement): HTMLElement {
  const title = () => section.querySelector("h2")?.textContent ?? view.name;
  const items = (): MenuItem[] => {
    const rows = chartTable(view);
    const count = writeCount(rows.ids.length);
    const { fit } = view.looked;
    return [
      ...(view.canZoom
        ? [{ label: "look closer", on: view.isCloser, press: () => view.lookCloser(!view.isCloser) }]
        : []),
      ...(view.isLooked ? [{ label: "show all", press: () => view.showAll() }] : []),
      ...(view.plan.stage === "plane"
        ? [
            {
              label: "fit to what is left",
              on: fit === true,
              press: () => {
                view.look({ ...view.looked, fit: !fit });
                view.app.settle();
              },
            },
          ]
        : []),
      { label: `rows as a table (${count})`, press: () => lookIn(view.app, title(), view.name, rows) },
      ...(["copy", "csv", "xlsx"] as const).map((way) => ({
        label: `${TAKE_WORDS[way]} (${count})`,
        press: () => takeBy(way)(view.app, view.name, rows),
      })),
      { label: "picture, SVG", press: () => takeSvg(view, section) },
      { label: "picture, PNG", press: () => void takePng(view, section) },
    ];
  };
  return element("span", { class: "menu-place" }, menuButton("more", `More for ${title()}`, items));
}
