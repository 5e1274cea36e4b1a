import { expect, test } from "vitest";
import { withUnit } from "./write";

test.each([
  ["Waited", "min", "Waited, min"],
  ["Days", "days", "Days"],
  ["Mean days", "days", "Mean days"],
  ["Days kept", "days", "Days kept, days"],
  ["Waited, min", "min", "Waited, min"],
  ["Tonnes", undefined, "Tonnes"],
])("%s in %s is %s", (label, unit, said) => expect(withUnit(label, unit)).toBe(said));
