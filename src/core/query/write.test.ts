import { expect, test } from "vitest";
import { setNumberMarks } from "../formula/number-format";
import type { Channel } from "./query";
import { categoryText, withUnit } from "./write";

test.each([
  ["Waited", "min", "Waited, min"],
  ["Days", "days", "Days"],
  ["Mean days", "days", "Mean days"],
  ["Days kept", "days", "Days kept, days"],
  ["Waited, min", "min", "Waited, min"],
  ["Tonnes", undefined, "Tonnes"],
])("%s in %s is %s", (label, unit, said) => expect(withUnit(label, unit)).toBe(said));

test("names that are numbers have the report's decimal mark, and nothing else of it", () => {
  const channel = { kind: "number" } as Channel;
  setNumberMarks({ decimal: ",", thousands: "." });
  expect(["36.2", "10234", "-0.5"].map((name) => categoryText(name, channel))).toEqual(["36,2", "10234", "-0,5"]);
  expect(categoryText("36.2", { ...channel, kind: "text" })).toBe("36.2");
  setNumberMarks();
  expect(categoryText("36.2", channel)).toBe("36.2");
});
