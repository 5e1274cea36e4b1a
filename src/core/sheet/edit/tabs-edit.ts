import { applyEdits, type TextEdit } from "../../finding/finding";
import { cellsOf, type Laid, withoutPiece, writeGrid } from "../../page/grid-edit";
import type { PagePlan, SharedPlace } from "../../page/page";
import { removeValue, setValue } from "./edit";
import { setGrid, setTracks } from "./page-edit";

/** Edits one after the other, each of the text that those before it have left; nothing where one cannot be made. */
function inTurn(text: string, ...edits: ((text: string) => TextEdit[] | undefined)[]): string | undefined {
  return edits.reduce<string | undefined>((now, edit) => {
    const own = now === undefined ? undefined : edit(now);
    return now === undefined || own === undefined ? undefined : applyEdits(now, own);
  }, text);
}

const lay =
  (page: number, { cells, columns, rows }: Laid, before: PagePlan) =>
  (text: string): string | undefined =>
    inTurn(
      text,
      (own) => setGrid(own, page, writeGrid(cells)),
      // A page that does not say its sizes goes on not saying them.
      (own) => (columns.length === before.columns.length ? [] : setTracks(own, page, "columns", columns)),
      (own) => (rows.length === before.rows.length ? [] : setTracks(own, page, "rows", rows)),
    );

const exchanged = (cells: readonly (readonly string[])[], name: string, by: string) =>
  cells.map((line) => line.map((cell) => (cell === name ? by : cell)));

/** A name for an area that nothing on the page has. */
function areaName(first: string, page: PagePlan): string {
  const taken = new Set(page.areas.map(({ piece }) => piece));
  for (let number = 1; ; number++) {
    const name = `${first}_tabs${number > 1 ? number : ""}`;
    if (!taken.has(name)) return name;
  }
}

/**
 * The text with a piece in tabs with another, or with those that share the other's place already; the piece leaves
 * its own. Nothing where one of them stands in no cell of its own.
 */
export function intoTabs(text: string, at: number, page: PagePlan, piece: string, target: string): string | undefined {
  const area = page.areas.find((own) => own.piece === target);
  const own = page.areas.find((one) => one.piece === piece);
  if (!area || !own || own.shared || area === own) return undefined;
  const path = ["pages", at, "areas"];
  if (area.shared && area.shared.sharing !== "tabs") return undefined;
  const laid = withoutPiece({ cells: cellsOf(page), columns: page.columns, rows: page.rows }, piece);
  if (area.shared) {
    const { length } = area.shared.items;
    const next = lay(at, laid, page)(text);
    return next && inTurn(next, (now) => setValue(now, [...path, target, "tabs", length], piece));
  }
  const name = areaName(target, page);
  const next = lay(at, { ...laid, cells: exchanged(laid.cells, target, name) }, page)(text);
  return next && inTurn(next, (now) => setValue(now, [...path, name], { tabs: [target, piece] }));
}

/** The text with a piece out of the tabs that it shares: in a row of its own at the foot of the page. */
export function outOfTabs(text: string, at: number, page: PagePlan, { area, items }: SharedPlace, piece: string) {
  const index = items.findIndex((item) => "piece" in item && item.piece === piece);
  if (index < 0) return undefined;
  const [other] = items.filter((_, place) => place !== index);
  const path = ["pages", at, "areas"];
  const isLast = items.length === 2 && other !== undefined && "piece" in other;
  const cells = isLast ? exchanged(cellsOf(page), area, other.piece) : cellsOf(page);
  const laid: Laid = {
    cells: [...cells, page.columns.map(() => piece)],
    columns: page.columns,
    rows: [...page.rows, page.height === "content" ? "320px" : "1fr"],
  };
  const next = lay(at, laid, page)(text);
  const shared = page.areas.filter((own) => own.shared).length;
  return (
    next &&
    inTurn(next, (now) => {
      if (!isLast) return removeValue(now, [...path, area, "tabs", index]);
      return removeValue(now, shared === 1 ? path : [...path, area]);
    })
  );
}
