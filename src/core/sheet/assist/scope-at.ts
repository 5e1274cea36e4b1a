import type { Path } from "../tree";
import type { Knowledge, KnownColumn } from "./knowledge";

/** The text of an entry of a top-level map, found also while YAML cannot read the whole. */
function bodyOf(text: string, group: string, name: string): string | undefined {
  const lines = text.split("\n");
  let inGroup = false;
  for (let at = 0; at < lines.length; at++) {
    const line = lines[at] as string;
    if (/^[a-z]/.test(line)) inGroup = line.startsWith(`${group}:`);
    const head = inGroup ? new RegExp(`^( +)["']?${name}["']?:(.*)$`).exec(line) : null;
    if (!head) continue;
    const indent = (head[1] as string).length;
    let body = head[2] as string;
    for (let next = at + 1; next < lines.length; next++) {
      const below = lines[next] as string;
      if (below.trim() !== "" && below.length - below.trimStart().length <= indent) break;
      body += `\n${below}`;
    }
    return body;
  }
  return undefined;
}

const wordUnder = (body: string | undefined, key: string) =>
  body && new RegExp(`(?:^|[\\s{,])${key}:\\s*["']?([a-z][a-z0-9_]*)`).exec(body)?.[1];

/** The name written under `from:` of a chart or control. */
export function tableOf(text: string, group: string, name: string): string | undefined {
  return wordUnder(bodyOf(text, group, name), "from") || undefined;
}

/** What a chart draws, if it says so itself. */
export function drawOf(text: string, name: string): string | undefined {
  return wordUnder(bodyOf(text, "charts", name), "draw") || undefined;
}

/** The columns that formulas at a path can use: of the table at that very step, or of the table that is drawn. */
export function columnsAt(text: string, path: Path, knowledge: Knowledge): readonly KnownColumn[] {
  const [group, name, key, step] = path;
  if (group === "tables" && typeof name === "string") {
    const stages = knowledge.tables.get(name);
    if (!stages?.length) return [];
    if (key === "steps" && typeof step === "number") return stages[Math.min(step, stages.length - 1)] ?? [];
    return key === "columns" ? (stages.at(-1) ?? []) : (stages[0] ?? []);
  }
  if ((group === "charts" || group === "controls") && typeof name === "string") {
    const table = tableOf(text, group, name);
    return (table === undefined ? undefined : knowledge.tables.get(table)?.at(-1)) ?? [];
  }
  return [];
}
