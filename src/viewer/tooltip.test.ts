import { expect, test } from "vitest";
import { partedLines, type ShownLine } from "./tooltip";

const lines = (words: Record<string, string>): ShownLine[] =>
  Object.entries(words).map(([label, text]) => ({ label, text }));
const written = (...blocks: Record<string, string>[]) =>
  partedLines(blocks.map(lines)).map((own) => own.map(({ label, text }) => `${label} ${text}`).join(", "));

test("what marks at one place have in common is said once, then what is each one's own", () => {
  expect(written({ from: "a", to: "b", by: "bus" }, { from: "a", to: "b", by: "boat" })).toEqual([
    "from a, to b",
    "by bus",
    "by boat",
  ]);
  // One mark has it all; marks that are the same in all are said once and counted.
  expect(written({ from: "a", to: "b" })).toEqual(["from a, to b"]);
  expect(written({ from: "a" }, { from: "a" }, { from: "a" })).toEqual(["from a"]);
  expect(written({ from: "a" }, { from: "b" })).toEqual(["", "from a", "from b"]);
  expect(written()).toEqual([""]);
});
