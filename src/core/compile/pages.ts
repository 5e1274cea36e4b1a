import { writeFix } from "../finding/finding";
import { listed, nearest } from "../finding/nearest";
import { ownOf } from "../finding/own";
import {
  defaultPage,
  type HeightOf,
  itemOf,
  naturalRows,
  type PageArea,
  type PageItem,
  type PagePlan,
  PIECE_HEIGHT,
  piecesOf,
  readGrid,
  readTracks,
  SHARINGS,
} from "../page/page";
import type { ControlPlan, PlanPiece } from "../plan/plan";
import type { PageSpec } from "../sheet/schema-pages";
import type { Path } from "../sheet/tree";
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
    const names = pieces.map(({ name, height, plan: { type } }) => ({ name, type, ...(height ? { height } : {}) }));
    for (const { name } of [...names, ...controls]) compiling.placed.add(name);
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
  const areasTaken = new Set<string>();
  return sheet.pages.map(({ spec, path }) => {
    if (taken.has(spec.page))
      addFinding(compiling, [...path, "page"], "doubled-name", `there are two pages called "${spec.page}"`);
    taken.add(spec.page);
    for (const name of Object.keys(spec.areas ?? {})) {
      if (areasTaken.has(name))
        addFinding(compiling, [...path, "areas", name], "doubled-name", `two pages have an area called "${name}"`);
      areasTaken.add(name);
    }
    const side = (spec.side ?? []).filter((name, at) => {
      compiling.placed.add(name);
      if (controlNames.includes(name)) return true;
      if (!sheet.broken.has(name)) unknown(compiling, [...path, "side", at], name, controlNames, "control");
      return false;
    });
    const grid = spec.grid === undefined ? defaultGrid(pieces) : spec.grid;
    const { areas, columns, rows, problem } = readGrid(grid);
    if (problem) addFinding(compiling, [...path, "grid"], "wrong-grid", problem);
    const sharing = new SharedAreas(compiling, spec, path, pieceNames);
    const known = areas.flatMap((area): PageArea[] => {
      const item = sharing.item(area.piece);
      if (item) return "piece" in item ? [area] : [{ ...area, shared: item }];
      if (!sheet.broken.has(area.piece)) gridName(compiling, path, area.piece, [...pieceNames, ...sharing.names]);
      compiling.placed.add(area.piece);
      return sheet.broken.has(area.piece) ? [area] : [];
    });
    sharing.warnUnused();
    refuseDoubled(compiling, path, side, known);
    const height = spec.height ?? "screen";
    const page: PagePlan = { name: spec.page, side, columns: [], rows: [], areas: known, height };
    page.columns = tracks(compiling, [...path, "columns"], spec.columns, Array(columns).fill("1fr"));
    const usual = naturalRows(page, rows, heightOf(pieces, controlNames));
    page.rows = tracks(compiling, [...path, "rows"], spec.rows, usual);
    return page;
  });
}

/** What stands twice on one page could be shown in one of its places only; on several pages it goes along. */
function refuseDoubled(compiling: Compiling, path: Path, side: readonly string[], areas: readonly PageArea[]) {
  const seen = new Set<string>();
  for (const [at, name] of side.entries()) {
    if (seen.has(name))
      addFinding(compiling, [...path, "side", at], "doubled-piece", `${name} stands twice at the side of this page`);
    seen.add(name);
  }
  for (const area of areas)
    for (const name of piecesOf(itemOf(area))) {
      if (seen.has(name))
        addFinding(
          compiling,
          [...path, area.shared ? "areas" : "grid", ...(area.shared ? [area.piece] : [])],
          "doubled-piece",
          `${name} stands twice on this page; take it out of one of its places`,
        );
      seen.add(name);
    }
}

/** Controls, notes and figures are only as high as they need to be, unless the sheet says how high. */
const heightOf =
  (pieces: readonly PlanPiece[], controls: readonly string[]): HeightOf =>
  (name) => {
    const piece = pieces.find((own) => own.name === name);
    if (piece?.height !== undefined) return { pixels: piece.height, said: true };
    const isLow = controls.includes(name) || piece?.plan.type === "figure" || piece?.plan.type === "note";
    return { pixels: isLow ? 0 : PIECE_HEIGHT };
  };

/** The areas of a page that several pieces share. */
class SharedAreas {
  private readonly used = new Set<string>();

  constructor(
    private readonly compiling: Compiling,
    private readonly spec: PageSpec,
    private readonly path: Path,
    private readonly pieces: readonly string[],
  ) {
    for (const [name, area] of Object.entries(spec.areas ?? {})) {
      const at = [...path, "areas", name];
      const ways = SHARINGS.filter((way) => area[way] !== undefined);
      if (ways.length !== 1)
        addFinding(compiling, at, "area-ways", `${name} shares its place in one way: tabs, stack or beside`);
      if (pieces.includes(name))
        addFinding(compiling, at, "doubled-name", `"${name}" is the name of a piece too; the grid could mean either`);
    }
  }

  get names(): string[] {
    return Object.keys(this.spec.areas ?? {});
  }

  /** What a name of the grid or of an area stands for; nothing for one that is not known. */
  item(name: string, above: readonly string[] = []): PageItem | undefined {
    const { compiling, path } = this;
    if (this.pieces.includes(name)) {
      compiling.placed.add(name);
      return { piece: name };
    }
    const area = ownOf(this.spec.areas ?? {}, name);
    const sharing = area && SHARINGS.find((way) => area[way] !== undefined);
    if (!area || !sharing) return undefined;
    this.used.add(name);
    const items = (area[sharing] ?? []).flatMap((one, at): PageItem[] => {
      const place = [...path, "areas", name, sharing, at];
      if (one === name || above.includes(one)) {
        addFinding(compiling, place, "cycle", `${one} would stand in itself`);
        return [];
      }
      const item = this.item(one, [...above, name]);
      if (item) return [item];
      if (!compiling.sheet.broken.has(one)) unknown(compiling, place, one, [...this.pieces, ...this.names], "piece");
      return compiling.sheet.broken.has(one) ? [{ piece: one }] : [];
    });
    return { area: name, sharing, items };
  }

  warnUnused() {
    for (const name of this.names)
      if (!this.used.has(name))
        addFinding(this.compiling, [...this.path, "areas", name], "unplaced", `the area ${name} stands in no grid`, {
          severity: "warning",
        });
  }
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
  usual: readonly string[],
): string[] {
  const count = usual.length;
  if (text === undefined) return [...usual];
  const { tracks: found, wrong } = readTracks(text);
  if (wrong !== undefined) {
    const message = `"${wrong}" is no track size; sizes are written like 1fr, 240px, 30% or minmax(200px, 1fr)`;
    const span = compiling.sheet.source.valueSpan(path);
    // A number alone: so many of one size.
    const even = /^[1-9]$|^1\d$/.test(text) ? Array(Number(text)).fill("1fr").join(" ") : undefined;
    addFinding(compiling, path, "wrong-track", message, writeFix(span, even));
    return [...usual];
  }
  if (found.length !== count)
    addFinding(
      compiling,
      path,
      "track-count",
      `the grid has ${count} ${path.at(-1)} but ${found.length} sizes stand here`,
      { severity: "warning" },
    );
  return Array.from({ length: count }, (_, at) => found[at] ?? (usual[at] as string));
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
      ...writeFix(span, near),
    },
  );
}

/** A wrong name in a grid is shown at its own cell. */
function gridName(compiling: Compiling, path: readonly (string | number)[], name: string, known: readonly string[]) {
  const { source } = compiling.sheet;
  const near = nearest(name, known);
  const whole = source.valueSpan([...path, "grid"]);
  const meant = near ? `did you mean ${near}?` : `there are ${listed(known)}`;
  const message = `there is no chart or control "${name}"; ${meant}`;
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
