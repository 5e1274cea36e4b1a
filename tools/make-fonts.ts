/**
 * Makes the packed type of dashboards from the font packages: one subset of the sans in two
 * weights and of the serif, and the table of character widths by which the first picture is
 * laid out. Run with `node .build/make-fonts.mjs`; what it writes is committed.
 */
import { readFileSync, writeFileSync } from "node:fs";
import { create } from "fontkit";
import subsetFont from "subset-font";

const RANGES: [number, number][] = [
  [0x20, 0x7e],
  [0xa0, 0xff],
  [0x152, 0x153],
  [0x160, 0x161],
  [0x178, 0x178],
  [0x17d, 0x17e],
];
const EXTRA = "–—‘’“”„…×−≤≥·•→↑↓€™‰′″";

function characters(): string {
  let text = EXTRA;
  for (const [from, to] of RANGES) for (let code = from; code <= to; code++) text += String.fromCodePoint(code);
  return text;
}

interface Face {
  name: "sans" | "sansBold" | "serif";
  file: string;
  text: string;
}

const all = characters();
const serifText = all;
const faces: Face[] = [
  { name: "sans", file: "@fontsource/source-sans-3/files/source-sans-3-latin-400-normal.woff2", text: all },
  { name: "sansBold", file: "@fontsource/source-sans-3/files/source-sans-3-latin-600-normal.woff2", text: all },
  { name: "serif", file: "@fontsource/source-serif-4/files/source-serif-4-latin-400-normal.woff2", text: serifText },
];

const widths: Record<string, Record<string, number>> = {};
const packed: Record<string, string> = {};
for (const face of faces) {
  const bytes = readFileSync(`node_modules/${face.file}`);
  const subset = await subsetFont(bytes, face.text, { targetFormat: "woff2", noLayoutClosure: false });
  packed[face.name] = Buffer.from(subset).toString("base64");
  const font = create(bytes) as unknown as {
    unitsPerEm: number;
    layout: (text: string, features?: string[]) => { advanceWidth: number };
    hasGlyphForCodePoint: (code: number) => boolean;
  };
  const table: Record<string, number> = {};
  for (const character of face.text) {
    if (!font.hasGlyphForCodePoint(character.codePointAt(0) as number)) continue;
    const features = /\d/.test(character) ? ["tnum"] : [];
    table[character] = Math.round((font.layout(character, features).advanceWidth / font.unitsPerEm) * 1000);
  }
  widths[face.name] = table;
  console.log(face.name, subset.length, "bytes");
}

/** Widths of the sans as one string of characters and one list: small, and quick to look up. */
const entries = Object.entries(widths.sans as Record<string, number>).sort(([a], [b]) => (a < b ? -1 : 1));
const widthTable = `{ characters: ${JSON.stringify(entries.map(([character]) => character).join(""))}, widths: [${entries.map(([, width]) => width).join(", ")}] }`;
const note = "// Made by tools/make-fonts.ts from the font packages; not edited by hand.\n";
writeFileSync(
  "src/core/scene/font-widths.ts",
  `${note}\n/** Advance widths of the sans in thousandths of the type size, figures tabular. */\nexport const FONT_WIDTHS = ${widthTable};\n`,
);
writeFileSync(
  "src/core/dashboard/packed-fonts.ts",
  `${note}\n/** Subsets of the type as base64 of woff2. */\nexport const PACKED_FONTS = {\n${Object.entries(packed)
    .map(([name, text]) => `  ${name}: "${text}",`)
    .join("\n")}\n};\n`,
);
