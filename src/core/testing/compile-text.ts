import { compile, type Compiled } from "../plan/compile";

/** Compiles a sheet's text with files given as texts: for tests. */
export function compileText(text: string, files: Record<string, string> = {}): Compiled {
  const bytes = new Map(Object.entries(files).map(([name, content]) => [name, new TextEncoder().encode(content)]));
  return compile({ text, fileName: "test.still.yaml", readFile: (path) => bytes.get(path) });
}

/** A sheet with one table `calls` of rows in the sheet itself, and more text under it. */
export function sheetOver(csv: string, rest: string, columns = ""): string {
  const rows = csv.trim().split("\n").map((line) => `      ${line.trim()}`).join("\n");
  return `still: 1\nreport: Test\ntables:\n  calls:\n    rows: |\n${rows}\n${columns}${rest}`;
}
