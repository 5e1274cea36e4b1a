import { CompileCache } from "../compile/cache";
import { nounOf } from "../compile/channels";
import type { Compiled, CompileInput } from "../compile/compile";
import type { EditionFile } from "../compile/editions";
import type { Finding } from "../finding/finding";
import { writeCount } from "../formula/format";
import { escapeAttribute, escapeText } from "../scene/escape";
import { type BuildOptions, buildDashboard, pageOf } from "./build";
import { renderMarkdown } from "./markdown";
import { dashboardCss } from "./style";

/** One file of a sheet with editions, as it is written. */
export interface WrittenEdition {
  file: string;
  /** Its HTML; absent where findings keep it from being written. */
  html?: string;
  findings: Finding[];
  /** Of how many it is which, counted from 1. */
  at: number;
  of: number;
}

/**
 * Writes the files of a sheet with editions one by one, the index last; whoever asks for the next can
 * say how far it is, or stop. Each is compiled from its own rows alone. The sheet's text is in none of
 * them unless `style: {sheet: keep}`.
 */
export function* buildEditions(
  input: Omit<CompileInput, "sheet">,
  compiled: Compiled,
  options: Omit<BuildOptions, "draft">,
): Generator<WrittenEdition> {
  const plan = compiled.editions;
  if (!plan) return;
  const of = plan.files.length + (plan.index ? 1 : 0);
  const cache = input.cache ?? new CompileCache();
  for (const [place, edition] of plan.files.entries()) {
    const { html, findings } = buildDashboard({ ...input, cache, edition }, options);
    yield { file: edition.file, findings, at: place + 1, of, ...(html === undefined ? {} : { html }) };
  }
  if (plan.index) yield { file: "index.html", html: indexPage(compiled, plan.files), findings: [], at: of, of };
}

/** A page with links to all editions, in the look of the dashboards. */
function indexPage({ plan, sheet, media }: Compiled, files: readonly EditionFile[]): string {
  const about = sheet.about === undefined ? "" : `<div class="about">${renderMarkdown(sheet.about)}</div>`;
  const logo = media.logo === undefined ? "" : `<img class="logo" alt="" src="${escapeAttribute(media.logo)}">`;
  const lines = files.map(
    ({ file, value, rows, table }) =>
      `<tr><th scope="row"><a href="${escapeAttribute(encodeURIComponent(file))}">${escapeText(value)}</a></th><td class="number">${writeCount(rows)} ${escapeText(nounOf({ sheet }, table))}</td></tr>`,
  );
  const body = `<header class="top"><div class="head">${logo}<h1>${escapeText(plan.report)}</h1></div>${about}</header><main class="page"><div class="rows editions"><table><tbody>${lines.join("")}</tbody></table></div></main>`;
  return pageOf({ title: plan.report, css: dashboardCss([], plan.style), body });
}
