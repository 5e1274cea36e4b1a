import { sha256 } from "@noble/hashes/sha2.js";
import MarkdownIt from "markdown-it";
import type { CompileCache } from "../compile/cache";
import { type Compiled, type CompileInput, compile } from "../compile/compile";
import { TooLarge } from "../finding/limits";
import { Model } from "../model/model";
import type { Plan } from "../plan/plan";
import { escapeText } from "../scene/svg";
import { toBase64 } from "./base64";
import type { PackedTable } from "./encoding";
import { packTable } from "./pack";
import { pageHtml } from "./page-html";
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
}

export interface Built extends Compiled {
  /** The dashboard's HTML; absent when errors stand and drafts were not asked for. */
  html?: string;
  /** The same with another script, as a proof has it. */
  withScript?: (script: string) => string;
  packing: PackingLine[];
}

export interface BuildOptions {
  /** The script that makes a plan's dashboard answer. */
  viewer: (plan: Plan) => string;
  /** Builds what is sound even though errors stand: for the proof. */
  draft?: boolean;
}

/** Text inside a data block: no `<` can begin a tag, and JSON stays JSON. */
export function blockText(text: string): string {
  return text.replaceAll("<", "\\u003c").replaceAll("\u2028", "\\u2028").replaceAll("\u2029", "\\u2029");
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

const hashCache = new Map<string, string>();

/** The hash of a script or style for the policy; the viewer's is asked for at every build. */
function hashOf(text: string): string {
  let hash = hashCache.get(text);
  if (hash === undefined) {
    hash = `'sha256-${toBase64(sha256(new TextEncoder().encode(text)))}'`;
    if (hashCache.size > 8) hashCache.clear();
    hashCache.set(text, hash);
  }
  return hash;
}

const markdown = new MarkdownIt({ html: false, linkify: false, typographer: false }).disable("image");

/** Compiles a sheet into one HTML file. The same input gives the same bytes. */
export function buildDashboard(input: CompileInput, options: BuildOptions): Built {
  const compiled = compile(input);
  if (!compiled.ok && !options.draft) return { ...compiled, packing: [] };
  input.cache?.answers.next();
  try {
    return { ...compiled, ...writeDashboard(compiled, input.text, options.viewer, input.cache) };
  } catch (fault) {
    // Formulas of charts are worked out as they are drawn.
    if (!(fault instanceof TooLarge)) throw fault;
    compiled.findings.push({
      code: "too-large",
      severity: "error",
      message: `this report cannot be drawn: ${fault.message}`,
    });
    return { ...compiled, ok: false, packing: [] };
  }
}

function writeDashboard(
  compiled: Compiled,
  sheetText: string,
  viewer: BuildOptions["viewer"],
  cache: CompileCache | undefined,
): { html: string; withScript: (script: string) => string; packing: PackingLine[] } {
  const { plan, tables, neededBy, sheet } = compiled;
  const packing: PackingLine[] = [];
  const packed: PackedTable[] = [];
  const blocks: string[] = [];
  const seals: string[] = [];
  for (const [name, table] of tables) {
    const result = packTable(name, table);
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
      });
      seals.push(sealOf(block));
      // Base64 needs no escaping, and browsers read a template's text in half the time of a script's.
      blocks.push(`<template data-column>${text}</template>`);
    });
  }
  // Rows without an identity are known by their numbers, which hold for these very tables only.
  const seal = hexOf(sha256(new TextEncoder().encode(seals.join(" ")))).slice(0, 8);
  const model = new Model(plan, tables, cache?.answers.answer);
  const ground = plan.style.ground === "dark" ? "dark" : "light";
  const about = sheet.about === undefined ? "" : `<div class="about">${markdown.render(sheet.about).trim()}</div>`;
  const body = pageHtml(model, about, ground);
  const css = dashboardCss(plan.pages, plan.style);
  const policyFor = (script: string) =>
    `default-src 'none'; script-src ${hashOf(script)}; style-src ${hashOf(css)}; img-src data: blob:; font-src data:; base-uri 'none'; form-action 'none'`;
  const onScreen = plan.pages.some((page) => page.height === "screen");
  const withScript = (script: string) =>
    [
      `<!doctype html>\n<html lang="en"${onScreen ? ' class="screen-page"' : ""}><head><meta charset="utf-8"><meta http-equiv="Content-Security-Policy" content="${policyFor(script)}">`,
      `<meta name="viewport" content="width=device-width, initial-scale=1"><title>${escapeText(plan.report)}</title><style>${css}</style></head><body>`,
      body,
      `<script type="application/json" id="plan">${blockText(JSON.stringify({ plan, tables: packed, seal }))}</script>`,
      ...blocks,
      `<script>${script}</script>`,
      sheet.style.sheet === "leave_out"
        ? ""
        : `<script type="application/json" id="sheet">${blockText(JSON.stringify(sheetText))}</script>`,
      "</body></html>\n",
    ].join("\n");
  return { html: withScript(viewer(plan)), withScript, packing };
}
