import { writeCount } from "../core/formula/format";
import type { App, View } from "./app";
import { openDialog } from "./dialog";
import { button, element } from "./dom";
import { type MenuItem, menuButton } from "./menu";
import type { StateKeeper } from "./state";
import type { ShownRows } from "./table/columns";
import { TAKE_WORDS, type TakeName, takeBy } from "./table/take";

/** A view whose rows can be taken away. */
interface Taking {
  taking(): { rows: ShownRows; ways: readonly Exclude<TakeName, "print">[] };
}

const canTake = (view: View): view is View & Taking => "taking" in view;

/** The page's own menu at its head: the views that the author offers, and what a reader does with the whole page. */
export function pageMenu(app: App, keeper: StateKeeper, chooseRows?: () => void) {
  const head = document.querySelector(".head");
  if (!head) return;
  head.querySelector(".page-menu")?.remove();
  const place = element("span", { class: "page-menu" });
  if (app.plan.views.length) place.append(menuButton("views", "Saved views", () => viewItems(app, keeper)));
  place.append(menuButton("page", "Page menu", () => pageItems(app, chooseRows)));
  head.append(place);
}

const viewItems = ({ plan }: App, keeper: StateKeeper): MenuItem[] =>
  plan.views.map(({ name, address }) => ({ label: name, press: () => keeper.open(address) }));

function pageItems(app: App, chooseRows: (() => void) | undefined): MenuItem[] {
  const made = document.querySelector<HTMLDetailsElement>(".made details");
  return [
    { label: "copy link to this view", press: () => copyLink(app) },
    { label: "take rows away", press: () => takeAway(app) },
    ...(chooseRows ? [{ label: "put in other rows, from a file", press: chooseRows }] : []),
    { label: "print", press: () => window.print() },
    ...(made
      ? [
          {
            label: "how this was made",
            press: () => {
              made.open = true;
              made.scrollIntoView();
              made.querySelector("summary")?.focus();
            },
          },
        ]
      : []),
    { label: app.ground === "dark" ? "light ground" : "dark ground", press: () => app.turnGround() },
    { label: "keys", press: () => showKeys() },
  ];
}

function copyLink(app: App) {
  const refused = () => app.say("this browser does not let the page copy; the link is in the address bar");
  // Pages that came over an open connection have no clipboard at all.
  if (!navigator.clipboard) return refused();
  navigator.clipboard.writeText(location.href).then(() => app.say("the link is on the clipboard"), refused);
}

/** A dialog with its title and a way out at its head. */
function titledDialog(title: string, content: Node) {
  const close = button("close", () => dialog.close());
  const dialog = openDialog(title, "look-in", element("header", {}, element("h2", {}, title), close), content);
}

/** Every piece of the page with its rows that pass, and the ways to take them. */
function takeAway(app: App) {
  const rows = [...app.views.values()]
    .filter((view) => app.isInSight(view.name))
    .filter(canTake)
    .map((view) => {
      const { rows: shown, ways } = view.taking();
      const words = ways.map((way) =>
        element(
          "td",
          {},
          button(TAKE_WORDS[way], () => takeBy(way)(app, view.name, shown), { class: "plain" }),
        ),
      );
      const title = app.model.titleOf(view.name);
      return element(
        "tr",
        {},
        element("th", { scope: "row" }, title),
        element("td", { class: "number" }, `${writeCount(shown.ids.length)} rows`),
        ...words,
      );
    });
  titledDialog(
    "Take rows away",
    element("div", { class: "rows" }, element("table", {}, element("tbody", {}, ...rows))),
  );
}

const KEYS: readonly [string, string][] = [
  ["Tab", "goes from piece to piece"],
  ["arrows", "walk the marks of a chart, read out one by one"],
  ["Enter", "picks a mark or row; with Shift it is added"],
  ["b, then arrows", "begins a brush and moves it; with Shift they widen it"],
  ["+  −  0", "look closer, back, at all; Alt and arrows pull the plot along"],
  ["o", "on an entry of a legend leaves it alone"],
  ["p", "keeps a tooltip, to be compared with others"],
  ["Escape", "drops a kept tooltip, or turns off the last selection"],
];

function showKeys() {
  const lines = KEYS.map(([key, does]) =>
    element("tr", {}, element("th", { scope: "row" }, key), element("td", {}, does)),
  );
  titledDialog("Keys", element("table", { class: "keys" }, element("tbody", {}, ...lines)));
}
