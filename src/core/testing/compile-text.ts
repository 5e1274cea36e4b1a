import { type Compiled, compile } from "../compile/compile";
import { prepareFiles } from "../compile/prepare";

type Files = Record<string, string | Uint8Array>;

function inputOf(text: string, files: Files) {
  const bytes = new Map(
    Object.entries(files).map(([name, content]) => [
      name,
      typeof content === "string" ? new TextEncoder().encode(content) : content,
    ]),
  );
  return {
    text,
    fileName: "test.still.yaml",
    readFile: (path: string) => bytes.get(path),
    listFiles: () => [...bytes.keys()],
  };
}

/** Compiles a sheet's text with files given as texts or bytes: for tests. */
export function compileText(text: string, files: Files = {}): Compiled {
  return compile(inputOf(text, files));
}

/** The same with files that must be decoded ahead. */
export async function compileFiles(text: string, files: Files): Promise<Compiled> {
  const input = inputOf(text, files);
  await prepareFiles(input);
  return compile(input);
}

/** A sheet with one table `calls` of rows in the sheet itself, and more text under it. */
export function sheetOver(csv: string, rest: string, columns = ""): string {
  const rows = csv
    .trim()
    .split("\n")
    .map((line) => `      ${line.trim()}`)
    .join("\n");
  return `still: 1\nreport: Test\ntables:\n  calls:\n    rows: |\n${rows}\n${columns}${rest}`;
}
