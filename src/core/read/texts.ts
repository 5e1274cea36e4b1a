import type { Finding } from "../finding/finding";
import { makeTable } from "../table/table";
import type { ReadOptions, ReadResult } from "./csv";
import { inferColumn, markMissing } from "./infer";
import type { IntakeReport } from "./report";

/** Names for heads: none empty, none twice. */
export function headNames(heads: readonly string[], notes: string[]): string[] {
  const taken = new Set<string>();
  return heads.map((head, place) => {
    const wanted = head.replace(/^\ufeff/, "").trim() || `column_${place + 1}`;
    let name = wanted;
    for (let count = 2; taken.has(name); count++) name = `${wanted}_${count}`;
    if (name !== wanted) notes.push(`the head "${wanted}" stands twice; the second is called "${name}"`);
    taken.add(name);
    return name;
  });
}

/** Makes a table of columns of texts: kinds are found by looking at every cell. The texts are used up. */
export function tableOfTexts(file: string, names: readonly string[], columns: (string | null)[][], rows: number, notes: string[], findings: Finding[], options: ReadOptions): ReadResult {
  const spellings = new Set(options.missingAs ?? []);
  const report: IntakeReport = { file, rows, columns: [], notes };
  const made = names.map((name, place) => {
    const texts = columns[place] as (string | null)[];
    const missing = markMissing(texts, spellings);
    const result = inferColumn(name, texts, missing, options.columns?.get(name));
    columns[place] = [];
    options.progress?.((place + 1) / names.length);
    report.columns.push(result.report);
    return [name, result.column] as const;
  });
  return { table: makeTable(rows, made), report, findings };
}
