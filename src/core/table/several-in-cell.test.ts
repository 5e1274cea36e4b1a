import { describe, expect, test } from "vitest";
import { textColumn } from "./column";
import { separatorIn } from "./several-in-cell";

const of = (cells: readonly string[]) => separatorIn(textColumn(cells, cells.length));
const TAGS = ["vip", "remote", "billing", "access"];
const PAIRS = TAGS.flatMap((a) => TAGS.filter((b) => b > a).map((b) => [a, b] as const));

describe("cells of several values", () => {
  test.each([";", "|", ", ", ","])("are known by values that come again, parted by %j", (separator) => {
    expect(of([...TAGS, ...PAIRS.map((pair) => pair.join(separator))])).toBe(separator);
  });
  test("are not those of names, addresses, remarks, or pairs that always stand together", () => {
    const numbers = Array.from({ length: 30 }, (_, at) => at);
    expect(of(numbers.map((at) => `Smith${at}, Ann${at % 3}`))).toBeUndefined();
    expect(of(numbers.map((at) => `It broke again, on day ${at}; nobody came.`))).toBeUndefined();
    expect(
      of(["north", "south"].flatMap((end) => numbers.slice(0, 5).map((hall) => `Hall ${hall}, ${end}`))),
    ).toBeUndefined();
    expect(of(TAGS)).toBeUndefined();
    expect(of([])).toBeUndefined();
  });
});
