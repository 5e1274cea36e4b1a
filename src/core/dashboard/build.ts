import { sha256 } from "@noble/hashes/sha2.js";
import type { CompileCache } from "../compile/cache";
import { type Compiled, type CompileInput, compile } from "../compile/compile";
import { TooLarge } from "../finding/limits";
import type { Plan } from "../plan/plan";
import { escapeText } from "../scene/escape";
import { toBase64 } from "../table/base64";
import { type Contents, contentsOf, type PackingLine } from "./contents";

export interface Built extends Compiled {
  /** The dashboard's HTML; absent when errors stand and drafts were not asked for. */
  html?: string;
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

/** Compiles a sheet into one HTML file. The same input gives the same bytes. */
export function buildDashboard(input: CompileInput, options: BuildOptions): Built {
  const compiled = compile(input);
  if (!compiled.ok && !options.draft) return { ...compiled, packing: [] };
  const { contents } = contentsOrFinding(compiled, input.cache, true);
  if (!contents) return { ...compiled, ok: false, packing: [] };
  return {
    ...compiled,
    html: fileOf(contents, options.viewer(compiled.plan)),
    packing: contents.packing,
  };
}

/** The contents of a dashboard; where a chart would be too much to draw, a finding that says so. */
export function contentsOrFinding(
  compiled: Compiled,
  cache: CompileCache | undefined,
  pictures: boolean,
): { contents?: Contents } {
  cache?.answers.next();
  try {
    return { contents: contentsOf(compiled, cache, pictures) };
  } catch (fault) {
    // Formulas of charts are worked out as they are drawn.
    if (!(fault instanceof TooLarge)) throw fault;
    compiled.findings.push({
      code: "too-large",
      severity: "error",
      message: `this report cannot be drawn: ${fault.message}`,
    });
    return {};
  }
}

const dataBlock = (id: string, data: unknown): string =>
  `<script type="application/json" id="${id}">${blockText(JSON.stringify(data))}</script>`;

/** A page without a script, which asks for nothing from anywhere. */
export function pageOf({ title, css, body }: { title: string; css: string; body: string }): string {
  const policy = `default-src 'none'; style-src ${hashOf(css)}; img-src data:; font-src data:; base-uri 'none'; form-action 'none'`;
  return `<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><meta http-equiv="Content-Security-Policy" content="${policy}">\n<meta name="viewport" content="width=device-width, initial-scale=1"><title>${escapeText(title)}</title><style>${css}</style></head><body>\n${body}\n</body></html>\n`;
}

/** The one file, with a script that makes it answer. */
export function fileOf(
  { plan, tables, blocks, seal, css, body, onScreen, pictures, sheetText, whole, used }: Contents,
  script: string,
): string {
  const images = plan.style.pictures === "outside" ? "img-src data: blob: https: http:" : "img-src data: blob:";
  const policy = `default-src 'none'; script-src ${hashOf(script)}; style-src ${hashOf(css)}; ${images}; font-src data:; base-uri 'none'; form-action 'none'`;
  return [
    `<!doctype html>\n<html lang="en"${onScreen ? ' class="screen-page"' : ""}><head><meta charset="utf-8"><meta http-equiv="Content-Security-Policy" content="${policy}">`,
    `<meta name="viewport" content="width=device-width, initial-scale=1"><title>${escapeText(plan.report)}</title><style>${css}</style></head><body>`,
    body,
    dataBlock("plan", { plan, tables, seal }),
    // Base64 needs no escaping, and browsers read a template's text in half the time of a script's.
    ...blocks.map((block) => `<template data-column>${block}</template>`),
    Object.keys(pictures).length ? dataBlock("pictures", pictures) : "",
    `<script>${script}</script>`,
    ...whole.blocks.map((block) => `<template data-whole>${block}</template>`),
    whole.tables.length ? dataBlock("whole", whole.tables) : "",
    Object.keys(used).length ? dataBlock("used", used) : "",
    sheetText === undefined ? "" : dataBlock("sheet", sheetText),
    "</body></html>\n",
  ].join("\n");
}
