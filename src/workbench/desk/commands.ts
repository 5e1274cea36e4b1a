import { copyReport, nextFinding, saveZip, writeDashboard } from "./actions";
import type { Desk } from "./desk";
import { writeRows } from "./shaping";
import { isFolded, STATIONS, type Station, WIDTHS, type WidthName } from "./state";
import { WHOLE_TABLE } from "./trays";

/** Something an author can do: found in the palette, pressed as a key where it has one. */
export interface Command {
  id: string;
  label: string;
  /** As it is shown, `Ctrl S`. */
  keys?: string;
  /** A few words by which it is found too. */
  also?: string;
  run: (desk: Desk) => void;
  isDisabled?: (desk: Desk) => boolean;
}

const WHAT: Record<Station, string> = {
  tables: "rows and steps",
  charts: "one chart large",
  links: "who drives whom",
  pages: "the dashboard at a width",
  publish: "what is in the file",
};

/** Opens the file picker by pressing the station's own button for it. */
function pick(kind: "table" | "zip" | "new") {
  document.querySelector<HTMLInputElement>(`input[data-pick="${kind}"]`)?.click();
}

export const COMMANDS: readonly Command[] = [
  ...STATIONS.map(
    (station, at): Command => ({
      id: station,
      label: `Go to ${station[0]?.toUpperCase()}${station.slice(1)}`,
      also: WHAT[station],
      keys: `Alt ${at + 1}`,
      run: (desk) => desk.state.set({ station }),
    }),
  ),
  {
    id: "write",
    label: "Write the dashboard file",
    also: "download html export",
    keys: "Ctrl S",
    run: (desk) => void writeDashboard(desk),
  },
  {
    id: "undo",
    label: "Undo",
    keys: "Ctrl Z",
    run: (desk) => desk.undo(),
    isDisabled: (desk) => !desk.state.get().canUndo,
  },
  {
    id: "redo",
    label: "Redo",
    keys: "Ctrl Y",
    run: (desk) => desk.redo(),
    isDisabled: (desk) => !desk.state.get().canRedo,
  },
  { id: "swap", label: "Between sheet and station", keys: "Ctrl E", run: swapFocus },
  { id: "next", label: "Next finding", also: "error warning mend", keys: "F8", run: nextFinding },
  {
    id: "fold",
    label: "Fold the sheet away, or open it",
    also: "spine",
    run: (desk) => desk.fold(!isFolded(desk.state.get())),
  },
  {
    id: "ground",
    label: "Light or dark ground",
    run: (desk) => desk.setGround(desk.state.get().ground === "light" ? "dark" : "light"),
  },
  ...WHOLE_TABLE.map(
    ([tray, words]): Command => ({
      id: `step ${tray}`,
      label: `Add a step: ${words}`,
      also: "table rows shape",
      run: (desk) => desk.state.set({ station: "tables", tray }),
    }),
  ),
  {
    id: "rows",
    label: "Write rows into the sheet",
    also: "table",
    run: (desk) => withStation(desk, "tables", () => writeRows(desk)),
  },
  {
    id: "add",
    label: "Add a table from a file",
    also: "csv open import",
    run: (desk) => withStation(desk, "tables", () => pick("table")),
  },
  { id: "begin", label: "Begin a report with my own table", also: "new csv", run: () => pick("new") },
  { id: "zip", label: "Save the report as a zip", also: "backup still.zip file", run: (desk) => void saveZip(desk) },
  { id: "unzip", label: "Open a report from a zip", also: "still.zip file", run: () => pick("zip") },
  { id: "copy", label: "Copy this report", run: (desk) => void copyReport(desk) },
  { id: "reports", label: "All reports", also: "projects open", run: (desk) => desk.state.set({ dialog: "reports" }) },
  {
    id: "versions",
    label: "Earlier versions",
    also: "history go back",
    run: (desk) => desk.state.set({ dialog: "versions" }),
  },
  { id: "guide", label: "Open the guide", run: (desk) => desk.state.set({ dialog: "guide" }) },
  { id: "demo", label: "Open the demo report anew", run: (desk) => void desk.openDemoReport() },
  ...(Object.keys(WIDTHS) as WidthName[]).map(
    (width): Command => ({
      id: `width ${width}`,
      label: width === "fit" ? "Show the proof as wide as there is room" : `Show the proof at ${width} width`,
      run: (desk) => desk.state.set({ station: "pages", width }),
    }),
  ),
  { id: "keys", label: "All keys", keys: "?", run: (desk) => desk.state.set({ dialog: "keys" }) },
  { id: "palette", label: "Find a command", keys: "Ctrl K", run: (desk) => desk.state.set({ dialog: "palette" }) },
];

function withStation(desk: Desk, station: Station, then: () => void) {
  desk.state.set({ station });
  requestAnimationFrame(then);
}

/** From the sheet into the station, and back. */
function swapFocus(desk: Desk) {
  const { editor } = desk;
  if (editor?.hasFocus) {
    const main = document.querySelector<HTMLElement>("main");
    (main?.querySelector<HTMLElement>("button, input, [tabindex='0'], iframe:not([aria-hidden])") ?? main)?.focus();
    return;
  }
  desk.fold(false);
  requestAnimationFrame(() => desk.editor?.focus());
}

/** The command whose key was pressed. Nothing is taken from somebody who writes, but what no text needs. */
export function commandOf(event: KeyboardEvent): Command | undefined {
  const target = event.target as HTMLElement | null;
  const writes =
    target instanceof Element && target.closest("input, textarea, select, [contenteditable=true]") !== null;
  const control = event.ctrlKey || event.metaKey;
  const name = event.key.length === 1 ? event.key.toUpperCase() : event.key;
  if (event.altKey && !control && /^[1-5]$/.test(event.key))
    return COMMANDS.find(({ keys }) => keys === `Alt ${event.key}`);
  if (event.altKey) return undefined;
  if (control && event.shiftKey && name === "Z") return COMMANDS.find(({ id }) => id === "redo");
  if (control && !event.shiftKey) {
    if (writes && (name === "Z" || name === "Y")) return undefined;
    return COMMANDS.find(({ keys }) => keys === `Ctrl ${name}`);
  }
  if (event.key === "F8") return COMMANDS.find(({ id }) => id === "next");
  return !writes && event.key === "?" ? COMMANDS.find(({ id }) => id === "keys") : undefined;
}
