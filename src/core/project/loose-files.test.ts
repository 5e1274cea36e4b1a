import { expect, test } from "vitest";
import { laidOut, missingPlace, reportsAmong } from "./loose-files";

const bytes = (text: string) => new TextEncoder().encode(text);
const loose = (files: Record<string, string>) =>
  new Map(Object.entries(files).map(([name, text]) => [name, bytes(text)]));

const MAIN = `still: 1
report: Calls
use: [shared/prep.still.yaml]
tables:
  calls: {read: data/calls.csv}
  wharves: {read: "data/wharf-*.csv"}
style: {use: house.style.yaml}
`;
const FILES = {
  "main.still.yaml": MAIN,
  "prep.still.yaml": "still: 1\ntables: {tides: {read: tides.csv}}\n",
  "house.style.yaml": "logo: mark.svg\n",
  "calls.csv": "a\n1\n",
  "wharf-1.csv": "a\n1\n",
  "tides.csv": "a\n1\n",
  "mark.svg": "<svg/>",
  "other.csv": "a\n1\n",
};

test("files that come one by one are laid where the sheet and what it uses name them", () => {
  expect([...laidOut(MAIN, loose(FILES)).keys()]).toEqual([
    "main.still.yaml",
    "shared/prep.still.yaml",
    "house.style.yaml",
    "data/calls.csv",
    "data/wharf-1.csv",
    "shared/tides.csv",
    "mark.svg",
    "other.csv",
  ]);
});

test("a name that is read in two folders, or outside, stays as it came", () => {
  const text = "still: 1\nreport: R\ntables: {a: {read: x/t.csv}, b: {read: y/t.csv}, c: {read: ../u.csv}}\n";
  expect([...laidOut(text, loose({ "t.csv": "a\n1\n", "u.csv": "a\n1\n" })).keys()]).toEqual(["t.csv", "u.csv"]);
});

test("the report among sheets is the one with a title that no other takes in, broken or in JSON too", () => {
  expect(reportsAmong(loose(FILES))).toEqual(["main.still.yaml"]);
  expect(reportsAmong(loose({ "a.still.json": '{"still": 1, "report": "R"}', "t.csv": "a\n1\n" }))).toEqual([
    "a.still.json",
  ]);
  expect(reportsAmong(loose({ "a.still.yaml": "still: 1\nreport: R\ntables: {t: [\n" }))).toEqual(["a.still.yaml"]);
  expect(reportsAmong(loose({ "a.still.yaml": "still: 1\ntables: {report: {read: t.csv}}\n" }))).toEqual([]);
  const both = {
    "a.still.yaml": "still: 1\nreport: A\nuse: [b.still.yaml]\n",
    "b.still.yaml": "still: 1\nreport: B\n",
  };
  expect(reportsAmong(loose(both))).toEqual(["a.still.yaml"]);
  expect(reportsAmong(loose({ ...both, "c.still.yaml": "still: 1\nreport: C\n" }))).toHaveLength(2);
});

test("a file that a sheet waits for has its place; one that is there, or is not named, has none", () => {
  const nothing = () => undefined;
  expect(missingPlace(MAIN, ["main.csv"], nothing, "calls.csv")).toBe("data/calls.csv");
  expect(missingPlace(MAIN, ["data/calls.csv"], nothing, "calls.csv")).toBeUndefined();
  expect(missingPlace(MAIN, [], nothing, "else.csv")).toBeUndefined();
});
