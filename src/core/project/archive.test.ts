import fc from "fast-check";
import { zipSync } from "fflate";
import { describe, expect, it } from "vitest";
import { openProject, packProject } from "./archive";
import { crc32, MOST_ENTRIES, pathProblem } from "./directory";

const sheet = new TextEncoder().encode("still: 1\nreport: R\n");
const zipped = (entries: Parameters<typeof zipSync>[0]) => zipSync({ "r.still.yaml": sheet, ...entries });
const problemOf = (bytes: Uint8Array) => {
  const opened = openProject(bytes);
  return opened.ok ? "taken" : opened.problem;
};

/** Changes a number in the directory entry of a path. */
function forge(bytes: Uint8Array, path: string, offset: number, value: number, width: 2 | 4 = 4): Uint8Array {
  const copy = bytes.slice();
  const view = new DataView(copy.buffer);
  const name = new TextEncoder().encode(path);
  for (let at = copy.length - 22; at >= 0; at--) {
    if (view.getUint32(at, true) !== 0x02014b50) continue;
    if (!name.every((byte, place) => copy[at + 46 + place] === byte)) continue;
    if (width === 2) view.setUint16(at + offset, value, true);
    else view.setUint32(at + offset, value, true);
    return copy;
  }
  throw new Error("no such entry");
}

describe("a project as a zip", () => {
  it("packing and opening is the identity, and gives the same bytes each time", () => {
    const paths = fc.uniqueArray(fc.stringMatching(/^[a-z]{1,8}(?:\/[a-z]{1,5})?\.csv$/), {
      maxLength: 5,
      selector: (path) => path,
    });
    fc.assert(
      fc.property(
        fc.string({ unit: "binary" }).map((text) => text.toWellFormed()),
        paths,
        fc.infiniteStream(fc.uint8Array({ maxLength: 300 })),
        (text, names, contents) => {
          const files = new Map(names.map((name) => [name, contents.next().value as Uint8Array]));
          const project = { sheetName: "r.still.yaml", text, files };
          const bytes = packProject(project);
          expect(packProject(project)).toEqual(bytes);
          const opened = openProject(bytes);
          if (!opened.ok) throw new Error(opened.problem);
          // A byte-order mark at the front of a text is a mark, not a part of the text.
          expect(opened.project.text).toBe(text.replace(/^\ufeff/, ""));
          expect([...opened.project.files].sort()).toEqual([...files].sort());
        },
      ),
    );
  });

  it("knows the published check sum", () => {
    expect(crc32(new TextEncoder().encode("123456789")).toString(16)).toBe("cbf43926");
  });
});

describe("a hostile zip", () => {
  it("is refused where names lead out of the folder", () => {
    for (const path of [
      "../up.csv",
      "a/../../up.csv",
      "/etc/x.csv",
      "C:x.csv",
      "a\\b.csv",
      "a//b.csv",
      "a/./b.csv",
      "x\u202ecsv",
    ])
      expect(pathProblem(path), path).toBeTruthy();
    expect(problemOf(zipped({ "../up.csv": sheet }))).toContain("leads out of the project");
    expect(problemOf(zipped({ "/root.csv": sheet }))).toContain("outside the project");
    expect(pathProblem("below/file (1).csv")).toBeUndefined();
  });

  it("is refused where an entry is a link", () => {
    expect(problemOf(zipped({ "link.csv": [sheet, { os: 3, attrs: 0o120777 << 16 }] }))).toContain("is a link");
  });

  it("is refused with more files than a project has", () => {
    const many = Object.fromEntries(
      Array.from({ length: MOST_ENTRIES + 5 }, (_, n) => [`f${n}.csv`, new Uint8Array(0)]),
    );
    expect(problemOf(zipped(many))).toContain("too many files");
    const million = zipped({ "a.csv": sheet });
    const forged = million.slice();
    new DataView(forged.buffer).setUint16(forged.length - 12, 0xffff, true);
    expect(problemOf(forged)).toContain("too many files");
  });

  it("is refused where it would grow beyond all tables", () => {
    expect(problemOf(zipped({ "bomb.csv": new Uint8Array(20_000_000) }))).toMatch(/would grow \d+ times/);
    expect(problemOf(forge(zipped({ "big.csv": [sheet, { level: 0 }] }), "big.csv", 24, 3_900_000_000))).toContain(
      "over 1 GB",
    );
  });

  it("is refused where the directory lies about sizes, contents or number", () => {
    const table = new TextEncoder().encode("a,b\n".repeat(1000));
    const good = zipped({ "t.csv": table });
    expect(problemOf(good)).toBe("taken");
    expect(problemOf(forge(good, "t.csv", 24, table.length - 5))).toContain("t.csv is damaged");
    expect(problemOf(forge(good, "t.csv", 24, table.length + 5))).toContain("t.csv is damaged");
    expect(problemOf(forge(good, "t.csv", 16, 1))).toContain("t.csv is damaged");
    expect(problemOf(forge(good, "t.csv", 42, good.length - 10))).toContain("t.csv is damaged");
    expect(problemOf(forge(good, "t.csv", 8, 1, 2))).toContain("password");
    expect(problemOf(forge(good, "t.csv", 10, 14, 2))).toContain("packed in a way");
    const fewer = good.slice();
    new DataView(fewer.buffer).setUint16(fewer.length - 12, 7, true);
    expect(problemOf(fewer)).toContain("does not hold what it promises");
  });

  it("is refused without one sheet", () => {
    expect(problemOf(zipSync({ "t.csv": sheet }))).toContain("holds no sheet");
    expect(problemOf(zipped({ "other.still.yaml": sheet }))).toContain("several sheets");
    expect(problemOf(zipSync({ "r.still.yaml": Uint8Array.of(0xff, 0xfe, 0x80) }))).toContain("no text in UTF-8");
    expect(problemOf(new Uint8Array(0))).toBe("this is no zip file");
    expect(problemOf(zipped({ "T.csv": sheet, "t.csv": sheet }))).toContain("stands twice");
  });

  it("never throws, whatever its bytes", () => {
    const good = zipped({ "t.csv": new TextEncoder().encode("a,b\n1,2\n") });
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(good.length - 1), fc.nat(255)), { maxLength: 8 }), (changes) => {
        const mutated = good.slice();
        for (const [at, byte] of changes) mutated[at] = byte;
        expect(typeof openProject(mutated).ok).toBe("boolean");
      }),
      { numRuns: 400 },
    );
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 200 }), (bytes) => {
        expect(openProject(bytes).ok).toBe(false);
      }),
    );
  });
});
