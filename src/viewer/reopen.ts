import { type Dashboard, type Loaded, openDashboard } from "./dashboard";

type Whole = Parameters<typeof openDashboard>[1];

/**
 * Has another dashboard take the place of the one that runs, on a page of its own and without loading a document:
 * what was scrolled and what had the focus stays so.
 * @param lay puts the new page's head, pages and foot where the old ones stood
 */
export function reopen(current: Dashboard, loaded: Loaded, lay: () => void, whole?: Whole): Dashboard {
  const places = scrolled();
  const focus = focusedPiece();
  current.dispose();
  document.title = loaded.plan.report;
  for (const old of document.querySelectorAll("body > header, body > main, body > footer")) old.remove();
  lay();
  const next = openDashboard(loaded, whole);
  // A page that stands at its top need not be laid out to be put there.
  if (places.page > 0) window.scrollTo(0, places.page);
  for (const [piece, top] of places.pieces) rowsOf(piece)?.scrollTo(0, top);
  if (focus !== undefined) section(focus)?.querySelector<HTMLElement>(".catch, [tabindex], button")?.focus();
  return next;
}

const section = (piece: string) => document.querySelector(`section[data-piece="${CSS.escape(piece)}"]`);
const rowsOf = (piece: string) => section(piece)?.querySelector(".rows");

/** How far the page and its lists are scrolled. */
function scrolled() {
  const pieces = [...document.querySelectorAll<HTMLElement>("section[data-piece] .rows")].flatMap((rows) => {
    const piece = rows.closest<HTMLElement>("[data-piece]")?.dataset.piece;
    return piece && rows.scrollTop > 0 ? [[piece, rows.scrollTop] as const] : [];
  });
  return { page: window.scrollY, pieces };
}

const focusedPiece = () => document.activeElement?.closest<HTMLElement>("section[data-piece]")?.dataset.piece;
