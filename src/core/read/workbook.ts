import { unzipSync } from "fflate";
import { boundMessage, LIMITS, TooLarge } from "../finding/limits";
import type { Decoded } from "./decoded";
import { meaningOf, type NumberMeaning } from "./number-formats";
import { type Shared, type SheetCells, SheetScanner, textIn } from "./sheet-cells";
import { attributeOf, tagsOf } from "./xml-text";

/** So many bytes are turned into text at a time. */
const PIECE = 4_000_000;

/** The parts of a workbook (ECMA-376, parts 1 and 2) by their names in the package. */
class Package {
  private readonly bytes: Uint8Array;

  constructor(bytes: Uint8Array) {
    this.bytes = bytes;
    let unpacked = 0;
    unzipSync(bytes, {
      filter: ({ originalSize }) => {
        unpacked += originalSize;
        return false;
      },
    });
    if (unpacked > LIMITS.unpackedBytes)
      throw new TooLarge(boundMessage("unpackedBytes", unpacked, "the workbook unpacked"));
  }

  /** One part; only while it is used does it take memory. */
  part(name: string): Uint8Array | undefined {
    return Object.values(
      unzipSync(this.bytes, { filter: (file) => file.name.toLowerCase() === name.toLowerCase() }),
    )[0];
  }

  text(name: string): string | undefined {
    const part = this.part(name);
    return part && new TextDecoder().decode(part);
  }
}

/** Gives a part as texts that each end behind an element of this name. */
function inPieces(part: Uint8Array, element: string, take: (xml: string) => void) {
  const decoder = new TextDecoder();
  let rest = "";
  for (let at = 0; at < part.length; at += PIECE) {
    const text = rest + decoder.decode(part.subarray(at, at + PIECE), { stream: at + PIECE < part.length });
    const end = text.lastIndexOf(`${element}>`);
    const cut = end < 0 ? 0 : end + element.length + 1;
    if (cut) take(text.slice(0, cut));
    rest = text.slice(cut);
  }
  if (rest) take(rest);
}

function sharedStrings(files: Package, path: string): string[] {
  const part = files.part(path);
  const strings: string[] = [];
  if (!part) return strings;
  inPieces(part, "si", (xml) => {
    for (const [, item = ""] of xml.matchAll(/<(?:[\w.-]+:)?si(?:\s[^>]*)?(?:\/>|>(.*?)<\/(?:[\w.-]+:)?si>)/gs)) {
      const text = textIn(item);
      strings.push(
        text.includes("_x")
          ? text.replace(/_x([0-9A-Fa-f]{4})_/g, (_, hex: string) => String.fromCharCode(Number.parseInt(hex, 16)))
          : text,
      );
    }
  });
  return strings;
}

/** What the numbers of each style stand for. */
function meanings(styles: string | undefined): NumberMeaning[] {
  if (styles === undefined) return [];
  const codes = new Map(
    tagsOf(styles, "numFmt").map((tag) => [Number(attributeOf(tag, "numFmtId")), attributeOf(tag, "formatCode") ?? ""]),
  );
  const cells = /<(?:[\w.-]+:)?cellXfs[\s>](.*?)<\/(?:[\w.-]+:)?cellXfs>/s.exec(styles)?.[1] ?? "";
  return tagsOf(`<${cells}`.replace(/^<[^<]*/, ""), "xf").map((tag) => {
    const id = Number(attributeOf(tag, "numFmtId") ?? 0);
    return meaningOf(id, codes.get(id));
  });
}

/** A path of a relation, which begins at the root or beside the workbook. */
const pathOf = (target: string) => (target.startsWith("/") ? target.slice(1) : `xl/${target.replace(/^\.\//, "")}`);

/**
 * Reads every sheet of an .xlsx workbook into cells: numbers as their digits, days, moments and lengths of time
 * as such.
 */
export async function decodeWorkbook(bytes: Uint8Array): Promise<Decoded> {
  const files = new Package(bytes);
  const book = files.text("xl/workbook.xml");
  if (book === undefined) throw new Error("it holds no workbook");
  const relations = tagsOf(files.text("xl/_rels/workbook.xml.rels") ?? "", "Relationship");
  const targets = new Map(relations.map((tag) => [attributeOf(tag, "Id"), attributeOf(tag, "Target") ?? ""]));
  const ofType = (kind: string) => relations.find((tag) => attributeOf(tag, "Type")?.endsWith(`/${kind}`));
  const named = (kind: string, usual: string) => pathOf(attributeOf(ofType(kind) ?? "", "Target") ?? usual);
  const shared: Shared = {
    strings: sharedStrings(files, named("sharedStrings", "sharedStrings.xml")),
    meanings: meanings(files.text(named("styles", "styles.xml"))),
    from1904: tagsOf(book, "workbookPr").some((tag) => /^(?:1|true|on)$/.test(attributeOf(tag, "date1904") ?? "")),
  };
  const sheets: SheetCells[] = [];
  for (const tag of tagsOf(book, "sheet")) {
    const target = targets.get(attributeOf(tag, "id"));
    const part = target === undefined ? undefined : files.part(pathOf(target));
    if (!part) continue;
    const scanner = new SheetScanner(
      attributeOf(tag, "name") ?? "",
      /hidden/i.test(attributeOf(tag, "state") ?? ""),
      shared,
    );
    inPieces(part, "row", (xml) => scanner.take(xml));
    sheets.push(scanner.finish());
  }
  return { type: "workbook", sheets };
}
