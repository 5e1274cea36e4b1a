import { spaced } from "../compile/channels";
import type { Compiled, TableAccount } from "../compile/compile";
import { writeCount } from "../formula/format";
import { shownTable } from "../plan/shown-table";
import { escapeText } from "../scene/escape";
import { capital } from "../table/column-names";
import type { PackingLine } from "./contents";

/** The last part of a path: where a file lies is nobody's business. */
const nameOf = (path: string): string => path.split(/[\\/]/).at(-1) ?? path;

/** Where the rows of a table come from, in words. */
function sourceWords({ sheet, stages }: Compiled, { name }: TableAccount): string {
  const rows = writeCount(stages.get(name)?.tables[0]?.rowCount ?? 0);
  const spec = sheet.tables.get(name);
  if (spec?.from !== undefined) return `made from ${spec.from}`;
  if (spec?.make) return `${writeCount(Number(spec.make.rows))} rows drawn from random numbers`;
  if (spec?.read === undefined) return `${rows} rows written in the sheet`;
  return `${rows} rows read from ${nameOf(spec.read)}`;
}

/** One step: what it did in words, rows in and out, and the author's reason. */
function stepHtml({ step, rowsIn, rowsOut, losses, why, off }: TableAccount["ledger"][number], shows: boolean): string {
  // Where the sheet stays at home, its formulas do too.
  const words = shows ? step : (step.split(" ")[0] ?? "");
  const lost = losses.map(({ rows, reason }) => `${writeCount(rows)} ${reason}`).join(", ");
  const rows =
    rowsIn === rowsOut ? `${writeCount(rowsOut)} rows` : `${writeCount(rowsIn)} → ${writeCount(rowsOut)} rows`;
  return `<li>${escapeText(words)}${off ? " (switched off)" : ""} <span class="quiet">${rows}${lost ? `: ${escapeText(lost)}` : ""}</span>${why === undefined ? "" : `<br>${escapeText(why)}`}</li>`;
}

/** What of a table is in the file: its columns, and charts that go along as groups of it. */
function leavingWords({ plan, groups }: Compiled, table: string, packing: readonly PackingLine[]): string {
  const columns = packing
    .filter((line) => !groups.has(line.table) && line.table.split("/")[0] === table)
    .map(({ column }) => column);
  const grouped = plan.pieces.filter(({ name, plan: { from } }) => from === table && groups.has(`${name}/groups`));
  const titles = grouped.map(({ words }) => words.title).join(", ");
  const isMadeHere = plan.tables.some(({ name, steps = [] }) => name === table && steps.length > 0);
  const none = isMadeHere ? "It is made anew where this file is read." : "No column of it is in this file.";
  return `${columns.length ? `In this file: ${columns.join(", ")}.` : none}${titles ? ` Of its groups alone: ${titles}.` : ""}`;
}

/**
 * How the report was made, for its readers: sources, steps with rows in and out and the author's
 * reasons, what leaves in the file, and its seal. It can be read without any script.
 */
export function madeHtml(compiled: Compiled, packing: readonly PackingLine[], seal: string): string {
  const shows = compiled.edition === undefined && compiled.sheet.style.sheet !== "leave_out";
  const used = new Set(compiled.plan.tables.map(({ name }) => name.split("/")[0] as string));
  const needed = new Set(used);
  for (const account of [...compiled.accounts].reverse()) {
    const from = compiled.sheet.tables.get(account.name)?.from;
    if (needed.has(account.name) && from !== undefined) needed.add(from);
  }
  const tables = compiled.accounts
    .filter(({ name }) => needed.has(name))
    .map((account) => {
      const steps = account.ledger.map((line) => stepHtml(line, shows)).join("");
      const left = leavingWords(compiled, account.name, packing);
      // Nobody has read, written or changed them.
      if (shownTable(account.name) !== account.name)
        return `<h3>${capital(shownTable(account.name))}</h3><p>${writeCount(account.rowCount)} outlines, which every report can lay under its maps.</p>`;
      return `<h3>${escapeText(capital(spaced(account.name)))}</h3><p>${escapeText(capital(sourceWords(compiled, account)))}; ${writeCount(account.rowCount)} rows in use.</p>${steps ? `<ol>${steps}</ol>` : ""}<p class="quiet">${escapeText(left)} What no chart needs was left out.</p>`;
    });
  return `<footer class="made"><details><summary>How this was made</summary><div>${tables.join("")}<p class="quiet">Seal of these tables: ${escapeText(seal)}</p></div></details></footer>`;
}
