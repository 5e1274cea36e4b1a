import { expect, test } from "vitest";
import { twoWords } from "./two-words";

test("cells that say yes and no are written so, in the capitals of the file", () => {
  expect(twoWords(["yes", " no "])).toEqual({ format: "yes/no" });
  expect(twoWords(["No", "Yes", "?"])).toEqual({ format: "Yes/No" });
  expect(twoWords(["NO"])).toEqual({ format: "YES/NO" });
  expect(twoWords(["Yes"])).toEqual({ format: "Yes/No" });
});

test("cells that say true and false, or both ways, are not", () => {
  expect(twoWords(["true", "false"])).toBeUndefined();
  expect(twoWords(["yes", "false"])).toBeUndefined();
  expect(twoWords([])).toBeUndefined();
});
