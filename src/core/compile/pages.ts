import { listed, nearest } from "../finding/nearest";
import { defaultPage, type PagePlan, readGrid, readTracks } from "../page/page";
import type { ControlPlan, PlanPiece } from "../plan/plan";
import { addFinding, type Compiling } from "./compiling";

/** Lays out the pages of the sheet, or the one page of a sheet that says nothing of pages. */
export function readPages(
  compiling: Compiling,
  pieces: PlanPiece[],
  controls: ControlPlan[],
  report: string,
): PagePlan[] {
  const { sheet } = compiling;
  if (sheet.pages.length === 0) {
    const names = pieces.map(({ name, plan }) => ({ name, figure: plan.type === "figure" }));
    for (const { name } of [...names, ...controls]) compiling.used.add(name);
    return [
      defaultPage(
        report,
        names,
        controls.map(({ name }) => name),
      ),
    ];
  }
  const pieceNames = [...pieces.map(({ name }) => name), ...controls.map(({ name }) => name)];
  const controlNames = controls.map(({ name }) => name);
  const taken = new Set<string>();
  return sheet.pages.map(({ spec, path }) => {
    if (taken.has(spec.page))
      addFinding(compiling, [...path, "page"], "doubled-name", `there are two pages called "${spec.page}"`);
    taken.add(spec.page);
    const side = (spec.side ?? []).filter((name, at) => {
      compiling.used.add(name);
      if (controlNames.includes(name)) return true;
      if (!sheet.broken.has(name)) unknown(compiling, [...path, "side", at], name, controlNames, "control");
      return false;
    });
    const grid = spec.grid === undefined ? defaultGrid(pieces) : spec.grid;
    const { areas, columns, rows, problem } = readGrid(grid);
    if (problem) addFinding(compiling, [...path, "grid"], "wrong-grid", problem);
    const known = areas.filter((area) => {
      compiling.used.add(area.piece);
      if (pieceNames.includes(area.piece)) return true;
      if (!sheet.broken.has(area.piece)) gridName(compiling, path, area.piece, pieceNames);
      return sheet.broken.has(area.piece);
    });
    return {
      name: spec.page,
      side,
      columns: tracks(compiling, [...path, "columns"], spec.columns, columns, "1fr"),
      rows: tracks(compiling, [...path, "rows"], spec.rows, rows, spec.height === "content" ? "320px" : "1fr"),
      areas: known,
      height: spec.height ?? "screen",
    };
  });
}

function defaultGrid(pieces: readonly PlanPiece[]): string {
  const names = pieces.map(({ name }) => name);
  const lines: string[] = [];
  for (let at = 0; at < names.length; at += 2) lines.push(`${names[at]} ${names[at + 1] ?? names[at]}`);
  return lines.join("\n");
}

function tracks(
  compiling: Compiling,
  path: readonly (string | number)[],
  text: string | undefined,
  count: number,
  usual: string,
): string[] {
  if (text === undefined) return Array.from({ length: count }, () => usual);
  const { tracks: found, wrong } = readTracks(text);
  if (wrong !== undefined) {
    addFinding(compiling, path, "wrong-track", `"${wrong}" is no track size; sizes are written like 1fr, 240px or 30%`);
    return Array.from({ length: count }, () => usual);
  }
  if (found.length !== count)
    addFinding(
      compiling,
      path,
      "track-count",
      `the grid has ${count} ${path.at(-1)} but ${found.length} sizes stand here`,
      { severity: "warning" },
    );
  return Array.from({ length: count }, (_, at) => found[at] ?? usual);
}

function unknown(
  compiling: Compiling,
  path: readonly (string | number)[],
  name: string,
  known: readonly string[],
  what: string,
) {
  const near = nearest(name, known);
  const span = compiling.sheet.source.valueSpan(path);
  addFinding(
    compiling,
    path,
    "unknown-piece",
    `there is no ${what} "${name}"${near ? `; did you mean ${near}?` : known.length ? `; ${what}s are ${listed(known)}` : ""}`,
    {
      ...(near && span ? { fix: { title: `write ${near}`, edits: [{ ...span, text: near }] } } : {}),
    },
  );
}

/** A wrong name in a grid is shown at its own cell. */
function gridName(compiling: Compiling, path: readonly (string | number)[], name: string, known: readonly string[]) {
  const { source } = compiling.sheet;
  const near = nearest(name, known);
  const whole = source.valueSpan([...path, "grid"]);
  const message = `there is no chart or control "${name}"${near ? `; did you mean ${near}?` : `; there are ${listed(known)}`}`;
  if (!whole) return addFinding(compiling, [...path, "grid"], "unknown-piece", message);
  const text = source.text.slice(whole.start, whole.end);
  const edits = [...text.matchAll(/[^\s|>]+/g)]
    .filter((match) => match[0] === name)
    .map((match) => ({ start: whole.start + match.index, end: whole.start + match.index + name.length }));
  const first = edits[0];
  compiling.findings.push({
    code: "unknown-piece",
    severity: "error",
    message,
    ...(first ? { span: first } : { span: whole }),
    ...(near && first
      ? { fix: { title: `write ${near}`, edits: edits.map((edit) => ({ ...edit, text: near })) } }
      : {}),
  });
  return undefined;
}
