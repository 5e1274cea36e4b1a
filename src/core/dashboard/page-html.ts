import { drawChart } from "../chart/draw";
import { figureHtml } from "../chart/figure-html";
import { figureParts } from "../chart/figure-texts";
import type { ChartInput } from "../chart/inputs";
import { hasLegend, legendClass, legendHtml, legendRoom } from "../chart/legend";
import type { ChartPlan, DataTablePlan, PieceWords } from "../chart/plan";
import { spaced } from "../compile/channels";
import { ownOf } from "../finding/own";
import { writeCount } from "../formula/format";
import type { Model } from "../model/model";
import { summaryHtml, summaryLines } from "../model/summary";
import { waitingHtml } from "../model/waiting";
import {
  columnsOf,
  GRID_GAP,
  isOpenEnded,
  itemOf,
  type PageItem,
  type PagePlan,
  piecesOn,
  type SharedPlace,
  shareOf,
} from "../page/page";
import type { PlanPiece } from "../plan/plan";
import { aligned } from "../query/aligned";
import { LayerValues } from "../query/values";
import { withUnit, writeAt } from "../query/write";
import { escapeAttribute, escapeText } from "../scene/escape";
import { markCount } from "../scene/scene";
import { sceneSvg } from "../scene/svg";
import type { Ground } from "../scene/theme";
import { isFigures } from "../table/column";
import { capital } from "../table/column-names";
import { renderMarkdown } from "./markdown";

/** The screen for which the first picture is laid out; the viewer fits it to the real one. */
const SCREEN = { width: 1280, height: 800 };
const BODY_PADDING = { x: 44, y: 30 };
const HEAD = 66;
/** The line at the foot that says how the report was made. */
const FOOT = 34;
const SIDE = 176 + 26;

/** Most marks that a first picture draws; above that the script does. */
const MOST_MARKS = 4000;

/** Pixels of grid tracks within a length; tracks that follow their content count as 120. */
function trackPixels(tracks: readonly string[], length: number, gap: number): number[] {
  const room = length - gap * (tracks.length - 1);
  const fixed = tracks.map((track) => {
    if (track.endsWith("px")) return Number.parseFloat(track);
    if (track.endsWith("%")) return (Number.parseFloat(track) / 100) * room;
    return shareOf(track) === undefined ? 120 : Number.NaN;
  });
  const left = room - fixed.reduce((sum, pixels) => sum + (Number.isNaN(pixels) ? 0 : pixels), 0);
  const shares = tracks.reduce((sum, track) => sum + (shareOf(track) ?? 0), 0);
  return tracks.map((track, at) =>
    Number.isNaN(fixed[at]) ? Math.max(60, (left * (shareOf(track) ?? 0)) / (shares || 1)) : (fixed[at] as number),
  );
}

interface Size {
  width: number;
  height: number;
  /** A row of it is as high as what stands in it. */
  grows?: boolean;
  /** Under a tab, which says the title. */
  isTabbed?: true;
}

/** Pixels of a row of tabs over what they open. */
const TAB_STRIP = 28;

/** The room of one of several that share a place. */
function sharedSize({ sharing, items }: SharedPlace, size: Size): Size {
  const { width, height } = size;
  if (sharing === "tabs") return { ...size, height: height - TAB_STRIP, isTabbed: true };
  const among = (length: number, gap: number) => (length - gap * (items.length - 1)) / items.length;
  return sharing === "stack"
    ? { ...size, height: among(height, GRID_GAP.y) }
    : { ...size, width: among(width, GRID_GAP.x) };
}

/** Width and height of every area on the nominal screen. */
function areaBoxes(page: PagePlan): Size[] {
  const width = SCREEN.width - BODY_PADDING.x - (page.side.length ? SIDE : 0);
  const height = page.height === "screen" ? SCREEN.height - BODY_PADDING.y - HEAD - FOOT : 320 * page.rows.length;
  const columns = trackPixels(page.columns, width, GRID_GAP.x);
  const rows = trackPixels(page.rows, height, GRID_GAP.y);
  const span = (sizes: number[], from: number, to: number, gap: number) =>
    sizes.slice(from - 1, to - 1).reduce((sum, size) => sum + size, 0) + gap * (to - from - 1);
  return page.areas.map((area) => ({
    width: span(columns, area.column, area.columnEnd, GRID_GAP.x),
    height: span(rows, area.row, area.rowEnd, GRID_GAP.y),
    grows: page.rows.slice(area.row - 1, area.rowEnd - 1).some(isOpenEnded),
  }));
}

/** The legend of a chart in its place, empty where it has none. */
function legendBox(model: Model, piece: PlanPiece, ground: Ground): string {
  const keys = model.legendKeys(piece.name);
  if (piece.plan.type !== "chart" || !hasLegend(piece.plan, keys)) return "";
  const { at } = piece.plan.legend;
  const place = `${legendClass(at)}${at.startsWith("in_") ? ` ${at.replaceAll("_", "-")}` : ""}`;
  const label = escapeAttribute(`Legend of ${model.titleOf(piece.name)}`);
  return `<div class="legend ${place}" role="group" aria-label="${label}">${legendHtml(keys, ground)}</div>`;
}

function tableHtml(model: Model, plan: DataTablePlan, name: string): string {
  const found = model.plainAnswer(name);
  if (!found) return "";
  const values = new LayerValues(found.answer, found.all);
  const channels = plan.columns.map(({ channel: key }) => {
    const [channel, column] = [plan.query.channels[key], values.get(key)];
    return { channel: channel && column ? aligned(channel, column) : channel, column };
  });
  const heads = channels
    .map(
      ({ channel, column }) =>
        `<th scope="col"${isFigures(column) ? ' class="number"' : ""}><span>${escapeText(channel ? withUnit(channel.label, channel.unit) : "")}</span></th>`,
    )
    .join("");
  const rows: string[] = [];
  const most = Math.min(25, plan.pages[0] === "all" ? 25 : (plan.pages[0] ?? 25));
  const waiting = waitingHtml(model, name);
  if (waiting) rows.push(`<tr><td colspan="${channels.length}">${waiting}</td></tr>`);
  for (let id = 0; !waiting && id < found.answer.counts.length && rows.length < most; id++) {
    if ((found.answer.counts[id] as number) === 0 || (found.answer.prepared.groups[id] as number) < 0) continue;
    const cells = channels.map(({ channel, column }) => {
      const text = channel && column ? writeAt(channel, column, id) : "";
      return `<td${isFigures(column) ? ' class="number"' : ""}>${escapeText(text.length > 200 ? `${text.slice(0, 200)}…` : text)}</td>`;
    });
    rows.push(`<tr>${cells.join("")}</tr>`);
  }
  return `<div class="rows"><table><thead><tr>${heads}</tr></thead><tbody>${rows.join("")}</tbody></table></div>`;
}

/** The class of what stands in a grid; what shares a place has none of its own. */
const areaClass = (place: number | undefined) => (place === undefined ? "" : ` area-${place}`);

function pieceHtml(model: Model, piece: PlanPiece, { place, box, drawn, ground, lefts }: ItemDress): string {
  const { plan, name } = piece;
  const { untitled } = piece.words;
  const words = { title: piece.words.title, ...model.words(name) } as PieceWords;
  const id = `title-${name}`;
  const head = (extra = "") =>
    `<header${untitled ? ' class="bare"' : ""}><h2 id="${id}">${escapeText(words.title)}</h2>${extra}</header>${words.subtitle === undefined ? "" : `<p class="sub">${escapeText(words.subtitle)}</p>`}`;
  const around = `${words.hint === undefined ? "" : `<p class="hint">${escapeText(words.hint)}</p>`}${words.credit === undefined ? "" : `<p class="credit">${escapeText(words.credit)}</p>`}`;
  const open = (kind: string) =>
    `<section class="piece ${kind}${areaClass(place)}" data-piece="${name}" aria-labelledby="${id}">`;
  const waiting = waitingHtml(model, name);
  if (plan.type === "figure") {
    const found = model.plainAnswer(name);
    const parts = found ? figureParts(plan, found, model.sparkAnswer(name)) : [];
    const shown = waiting ?? figureHtml(parts, plan.query.groupBy.length > 0, ground);
    return `${open("figure")}${head()}<div class="shown-figure">${shown}</div>${around}</section>`;
  }
  if (plan.type === "summary")
    return `${open("summary")}${head()}<div class="rows">${waiting ?? summaryHtml(summaryLines(model, name), ground)}</div>${around}</section>`;
  if (plan.type === "table")
    return `${open("table")}${head()}${drawn ? tableHtml(model, plan, name) : '<div class="rows"></div>'}${around}</section>`;
  if (plan.type === "note")
    return `${open("note")}${head()}<div class="about">${noteHtml(model, piece)}</div></section>`;
  const legend = legendBox(model, piece, ground);
  let picture = "";
  if (drawn) {
    const input = firstInput(model, piece, box);
    const left = lefts.get(name);
    const result = input && drawChart(left === undefined || plan.legend.at === "left" ? input : { ...input, left });
    if (result && markCount(result.scene) <= MOST_MARKS) picture = sceneSvg(result.scene, words.title, ground);
    else if (result)
      picture = sceneSvg(
        {
          ...result.scene,
          panels: result.scene.panels.map(({ plot }) => ({ plot, shapes: [] })),
          message: `${writeCount(markCount(result.scene))} marks, drawn when the page has woken`,
        },
        words.title,
        ground,
      );
  }
  const plot = `<div class="plot">${picture}</div>`;
  return `${open("chart")}${head()}${aroundPlot(plan, plot, legend)}${around}</section>`;
}

/** The plot of a chart with its legend over, under, beside or in it. */
function aroundPlot({ legend: { at } }: ChartPlan, plot: string, legend: string): string {
  if (legend === "") return plot;
  if (at === "bottom") return plot + legend;
  if (at === "left") return `<div class="with-legend">${legend}${plot}</div>`;
  if (at === "right") return `<div class="with-legend">${plot}${legend}</div>`;
  return at.startsWith("in_") ? `<div class="with-legend">${plot}${legend}</div>` : legend + plot;
}

/** Signs of the private use area, in which a value's name goes through Markdown unchanged. */
const VALUE = /\uE000(.*?)\uE001/g;

/** A note as HTML, its values in places that the viewer finds again. */
function noteHtml(model: Model, { name, plan }: PlanPiece): string {
  if (plan.type !== "note") return "";
  const found = plan.from === "" ? undefined : model.plainAnswer(name);
  const values = found && new LayerValues(found.answer, found.all);
  const words = model.words(name);
  const html = renderMarkdown(
    plan.text.replace(/[\uE000\uE001]/g, "").replace(/\{([^{}]*)\}/g, (_, key: string) => `\uE000${key.trim()}\uE001`),
  );
  return html.replace(VALUE, (_, key: string) => {
    const channel = plan.query.channels[key];
    const column = values?.get(key);
    const text = channel && column ? writeAt(channel, column, 0) : (words[key] ?? "");
    return `<span data-value="${escapeAttribute(key)}">${escapeText(text)}</span>`;
  });
}

function brokenHtml(name: string, message: string, place: number | undefined): string {
  return `<section class="piece${areaClass(place)}" data-piece="${escapeAttribute(name)}"><header><h2>${escapeText(name)}</h2></header><p class="broken">${escapeText(message)}</p></section>`;
}

/** How something on a page is written. */
interface ItemDress {
  /** Its number among the areas; absent where it shares one. */
  place?: number;
  box: Size;
  drawn: boolean;
  ground: Ground;
  /** Room at the left that charts of one column share, by piece. */
  lefts: ReadonlyMap<string, number>;
  /** Names of what stands on a page before this one: it goes along to where the reader turns. */
  before: ReadonlySet<string>;
}

/** The place of something that stands on a page before this one too. */
const againHtml = (name: string, classes: string): string =>
  `<div${classes === "" ? "" : ` class="${classes}"`} data-again="${escapeAttribute(name)}"></div>`;

/** The first picture of a chart in its place, before any script has looked at the real one. */
function firstInput(model: Model, piece: PlanPiece, box: Size): ChartInput | undefined {
  const { plan, words } = piece;
  if (plan.type !== "chart") return undefined;
  const lines = [words.subtitle, words.hint, words.credit].map((text, at) => (text === undefined ? 0 : at ? 17 : 18));
  const room = legendRoom(plan, model.legendKeys(piece.name), box.width);
  const isBare = words.untitled || (box.isTabbed && plan.legend.at === "top" && room.height > 0);
  const head = isBare ? 6 : 27;
  const stated = piece.height ?? box.height;
  const whole = box.grows ? stated : Math.min(stated, box.height);
  const height = whole - head - room.height - lines.reduce<number>((sum, line) => sum + line, 0);
  return model.chartInput(piece.name, Math.max(120, box.width - room.width), Math.max(60, height), new Set());
}

/** The room at the left that charts over one another share, by piece. */
function sharedLefts(model: Model, page: PagePlan, boxes: readonly Size[]): Map<string, number> {
  const lefts = new Map<string, number>();
  for (const column of columnsOf(page)) {
    const needs = column.flatMap((name): number[] => {
      const piece = model.piece(name);
      const at = page.areas.findIndex((area) => area.piece === name);
      const input = piece && firstInput(model, piece, boxes[at] as Size);
      if (input?.plan.stage !== "plane" || input.plan.legend.at === "left") return [];
      return [drawChart(input).left ?? 0];
    });
    if (needs.length > 1) for (const name of column) lefts.set(name, Math.max(...needs));
  }
  return lefts;
}

/** What stands in an area: a piece, a control, or several that share the place. */
function itemHtml(model: Model, item: PageItem, dress: ItemDress): string {
  const { place, box, drawn, ground, lefts, before } = dress;
  if ("piece" in item) {
    if (before.has(item.piece)) return againHtml(item.piece, `piece${areaClass(place)}`);
    const piece = model.piece(item.piece);
    if (piece) return pieceHtml(model, piece, dress);
    const broken = ownOf(model.plan.broken, item.piece);
    if (broken !== undefined) return brokenHtml(item.piece, broken, place);
    return `<div class="piece${areaClass(place)}" data-control="${escapeAttribute(item.piece)}"></div>`;
  }
  const inner = { box: sharedSize(item, box), ground, lefts, before };
  const open = `<div class="shared ${item.sharing}${areaClass(place)}" data-area="${escapeAttribute(item.area)}">`;
  if (item.sharing !== "tabs")
    return `${open}${item.items.map((one) => itemHtml(model, one, { ...inner, drawn })).join("")}</div>`;
  const id = (at: number) => escapeAttribute(`${item.area}-${at}`);
  const heads = item.items.map(
    (one, at) =>
      `<button type="button" role="tab" id="tab-${id(at)}" aria-controls="panel-${id(at)}" aria-selected="${at === 0}"${at === 0 ? "" : ' tabindex="-1"'}>${escapeText(itemTitle(model, one))}</button>`,
  );
  const panels = item.items.map(
    (one, at) =>
      `<div role="tabpanel" id="panel-${id(at)}" aria-labelledby="tab-${id(at)}"${at === 0 ? "" : " hidden"}>${itemHtml(model, one, { ...inner, drawn: drawn && at === 0 })}</div>`,
  );
  const label = escapeAttribute(spaced(item.area));
  return `${open}<div role="tablist" aria-label="${label}">${heads.join("")}</div>${panels.join("")}</div>`;
}

/** The words on the tab of something. */
function itemTitle(model: Model, item: PageItem): string {
  if (!("piece" in item)) return capital(spaced(item.area));
  const control = model.plan.controls.find(({ name }) => name === item.piece);
  return model.words(item.piece).title ?? control?.label ?? item.piece;
}

/** What a page is written with beside the model. */
interface PageDress {
  /** HTML of the words under the title. */
  about: string;
  ground: Ground;
  /** First pictures of charts are drawn. */
  pictures: boolean;
  /** A `data:` address. */
  logo?: string | undefined;
}

/** The body of the page as it can be read before any script runs. */
export function pageHtml(model: Model, { about, ground, pictures, logo }: PageDress): string {
  const { plan } = model;
  const tabs =
    plan.pages.length > 1
      ? `<nav aria-label="Pages"><ul class="pages">${plan.pages.map((page, at) => `<li><button type="button"${at === 0 ? ' aria-current="page"' : ""} data-page="${at}">${escapeText(page.name)}</button></li>`).join("")}</ul></nav>`
      : "";
  const pages = plan.pages.map((page, at) => {
    const boxes = areaBoxes(page);
    const lefts = pictures && at === 0 ? sharedLefts(model, page, boxes) : new Map<string, number>();
    const before = new Set(plan.pages.slice(0, at).flatMap((other) => [...other.side, ...piecesOn(other)]));
    const drawn = pictures && at === 0;
    const inGrid = page.areas.map((area, place) =>
      itemHtml(model, itemOf(area), { place, box: boxes[place] as Size, drawn, ground, lefts, before }),
    );
    const controls = page.side.map((control) =>
      before.has(control) ? againHtml(control, "") : `<div data-control="${escapeAttribute(control)}"></div>`,
    );
    const side = controls.length ? `<aside class="side" aria-label="Controls">${controls.join("")}</aside>` : "";
    return `<main class="page${page.side.length ? " sided" : ""}${page.height === "screen" ? " screen" : ""}" id="page-${at}"${at === 0 ? "" : " hidden"}>${side}<div class="grid">${inGrid.join("")}</div></main>`;
  });
  const first = Object.entries(model.counts()).map(
    ([name, { left, all }]) => `<b>${writeCount(left)}</b> of ${writeCount(all)} ${escapeText(model.nounOf(name))}`,
  );
  return `<header class="top"><div class="head">${logo === undefined ? "" : `<img class="logo" alt="" src="${escapeAttribute(logo)}">`}<h1>${escapeText(plan.report)}</h1>${tabs}</div>${about}<p class="sentence" role="status">${first.join(" · ")}</p></header>${pages.join("")}`;
}
