import { sha256 } from "@noble/hashes/sha2.js";
import type { CompileCache } from "../compile/cache";
import { type Compiled, sheetLeaves } from "../compile/compile";
import type { Media } from "../compile/pictures";
import { Model } from "../model/model";
import type { Plan } from "../plan/plan";
import { smallestGroup } from "../query/finished";
import { toBase64 } from "../table/base64";
import type { PackedTable } from "./encoding";
import { madeHtml } from "./made-html";
import { renderMarkdown } from "./markdown";
import { packTable } from "./pack";
import { pageHtml } from "./page-html";
import { sheetToGo, withoutCells, withoutComments } from "./sheet-to-go";
import { dashboardCss } from "./style";

/** One column of the packing list: what leaves, how large it is and who needs it. */
export interface PackingLine {
  table: string;
  column: string;
  rows: number;
  kind: string;
  /** Bytes in the file. */
  bytes: number;
  neededBy: string[];
  /** No column of a table: the sheet's text, a picture. */
  beside?: true;
  /** Where groups leave in place of rows: the one of fewest, by which single rows could be told. */
  smallest?: { rows: number; group: string };
}

/** What stands in a dashboard beside its script: everything that follows from the sheet and the tables. */
export interface Contents {
  plan: Plan;
  tables: PackedTable[];
  /** The columns' bytes in the order of the tables, as base64. */
  blocks: string[];
  /** Tables as they were read, where the author lets all go along: for opening the file again. */
  whole: { tables: PackedTable[]; blocks: string[] };
  /** Sheets and house styles that the sheet uses, by path, as they go along. */
  used: Record<string, string>;
  /** Rows without an identity are known by their numbers, which hold for these very tables only. */
  seal: string;
  packing: PackingLine[];
  /** The sheet's text as it goes along. */
  sheetText?: string;
  /** Pictures in tables by the text of their cells, as `data:` addresses. */
  pictures: Record<string, string>;
  css: string;
  /** The page as it can be read before any script runs. */
  body: string;
  /** Some page fills the screen. */
  onScreen: boolean;
}

const base64Cache = new WeakMap<Uint8Array, string>();

/** The text of a block, kept as long as the block is. */
function blockBase64(block: Uint8Array): string {
  let text = base64Cache.get(block);
  if (text === undefined) {
    text = toBase64(block);
    base64Cache.set(block, text);
  }
  return text;
}

function hexOf(bytes: Uint8Array): string {
  return [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
}

const sealCache = new WeakMap<Uint8Array, string>();

/** The hash of a block, kept as long as the block is. */
function sealOf(block: Uint8Array): string {
  let seal = sealCache.get(block);
  if (seal === undefined) {
    seal = hexOf(sha256(block));
    sealCache.set(block, seal);
  }
  return seal;
}

/** Lines of the packing list for pictures. */
function packedMedia({ logo, pictures }: Media): PackingLine[] {
  const line = (column: string, rows: number, bytes: number, by: string): PackingLine => ({
    table: "style",
    column,
    rows,
    kind: "picture",
    bytes,
    neededBy: [by],
    beside: true,
  });
  const bytes = [...pictures.values()].reduce((sum, { length }) => sum + length, 0);
  return [
    ...(logo === undefined ? [] : [line("logo", 1, logo.length, "the head of the page")]),
    ...(pictures.size ? [line("pictures", pictures.size, bytes, "cells of tables")] : []),
  ];
}

/** Every table as it was read, with all its rows and columns; none unless the sheet says `tables: whole`. */
function wholeTables({ sheet, stages }: Compiled, packing: PackingLine[]): Contents["whole"] {
  const whole: Contents["whole"] = { tables: [], blocks: [] };
  if (sheet.style.tables !== "whole") return whole;
  for (const { name, tables } of stages.values()) {
    const [source] = tables;
    if (!source || sheet.tables.get(name)?.from !== undefined) continue;
    const { table, blocks } = packTable(name, source);
    whole.tables.push(table);
    blocks.forEach((block, at) => {
      const text = blockBase64(block);
      whole.blocks.push(text);
      const { name: column, kind } = table.columns[at] as PackedTable["columns"][number];
      packing.push({
        table: name,
        column,
        rows: source.rowCount,
        kind,
        bytes: text.length,
        neededBy: ["tables: whole"],
      });
    });
  }
  return whole;
}

/** Used sheets and house styles go along without comments and rows; rows come back as they were packed. */
function usedTexts({ sheet }: Compiled): Record<string, string> {
  const texts = [...(sheet.usedTexts ?? [])];
  return Object.fromEntries(
    texts.map(([path, text]) => [path, sheet.style.tables === "whole" ? text : withoutCells(withoutComments(text))]),
  );
}

const packedSheet = (column: string, text: string): PackingLine => ({
  table: "sheet",
  column,
  rows: text.split("\n").length,
  kind: "text",
  bytes: new TextEncoder().encode(text).length,
  neededBy: ["opening the file again"],
  beside: true,
});

/** Packs the tables of a compiled sheet, and writes its page; without `pictures` each chart's place stays empty. */
export function contentsOf(compiled: Compiled, cache: CompileCache | undefined, pictures: boolean): Contents {
  const { plan, tables, neededBy, sheet, media } = compiled;
  const packing: PackingLine[] = [];
  const packed: PackedTable[] = [];
  const blocks: string[] = [];
  const seals: string[] = [];
  for (const [name, table] of tables) {
    const result = packTable(name, table);
    const smallest = compiled.groups.has(name) ? smallestGroup(table) : undefined;
    packed.push(result.table);
    result.blocks.forEach((block, at) => {
      const column = result.table.columns[at] as PackedTable["columns"][number];
      const text = blockBase64(block);
      packing.push({
        table: name,
        column: column.name,
        rows: table.rowCount,
        kind: column.kind,
        bytes: text.length,
        neededBy: [...(neededBy.get(name)?.get(column.name) ?? [])].sort(),
        ...(smallest && at === 0 ? { smallest } : {}),
      });
      seals.push(sealOf(block));
      blocks.push(text);
    });
  }
  packing.push(...packedMedia(media));
  const leaves = sheetLeaves(sheet, compiled.edition);
  const going = !leaves ? undefined : sheetToGo(compiled, sheet.source.text);
  if (going !== undefined) packing.push(packedSheet("its text", going));
  const used = leaves ? usedTexts(compiled) : {};
  for (const [path, text] of Object.entries(used)) packing.push(packedSheet(path, text));
  const model = new Model(plan, tables, cache?.answers.answer);
  const ground = plan.style.ground === "dark" ? "dark" : "light";
  const about = sheet.about === undefined ? "" : `<div class="about">${renderMarkdown(sheet.about)}</div>`;
  const seal = hexOf(sha256(new TextEncoder().encode(seals.join(" ")))).slice(0, 8);
  return {
    plan,
    tables: packed,
    blocks,
    whole: leaves ? wholeTables(compiled, packing) : { tables: [], blocks: [] },
    used,
    seal,
    packing,
    ...(going === undefined ? {} : { sheetText: going }),
    pictures: Object.fromEntries(media.pictures),
    css: dashboardCss(plan.pages, plan.style, plan.pieces, plan.opens !== undefined),
    body: pageHtml(model, { about, ground, pictures, logo: media.logo }) + madeHtml(compiled, packing, seal),
    onScreen: plan.pages.some((page) => page.height === "screen"),
  };
}
