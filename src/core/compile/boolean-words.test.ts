import { describe, expect, test } from "vitest";
import { categoryText, writeAt } from "../query/write";
import { compileText } from "../testing/compile-text";

const sheet = (columns = "") => `still: 1
report: R
tables:
  t:
    rows: |
      who,member
      a,Yes
      b,No
      c,
    columns: {who: text${columns}}
charts:
  list: {from: t, draw: table, columns: [who, member]}
  bars: {from: t, draw: bars, x: member, y: count()}
  rate: {from: t, draw: figure, value: mean(member)}
`;

/** How the categories of the bars are written. */
function words(columns?: string) {
  const { plan, findings } = compileText(sheet(columns));
  expect(findings.filter(({ severity }) => severity === "error")).toEqual([]);
  const bars = plan.pieces.find(({ name }) => name === "bars")?.plan;
  const x = bars?.type === "chart" ? bars.layers[0]?.query.channels.x : undefined;
  return ["true", "false", null].map((name) => categoryText(name, x));
}

describe("what is true and what is not", () => {
  test("is written as the file has it", () => {
    expect(words()).toEqual(["Yes", "No", "missing"]);
  });
  test("is written as the sheet says", () => {
    expect(words(', member: {format: "in / not in"}')).toEqual(["in", "not in", "missing"]);
    expect(words(", member: {type: boolean, format: member/guest}")).toEqual(["member", "guest", "missing"]);
  });
  test("is told where its format is none", () => {
    const told = (format: string) =>
      compileText(sheet(`, member: {format: "${format}"}`)).findings.map(({ message }) => message);
    expect(told(".1f")).toEqual(['".1f" is no format for a boolean; two words are, as in "yes/no"']);
    expect(told("yes/")).toHaveLength(1);
    expect(told("a/b/c")).toHaveLength(1);
  });
  test("is read by the words that the sheet gives, and written by them", () => {
    const german = (columns: string) => compileText(sheet(columns).replace("a,Yes", "a,Ja").replace("b,No", "b, nein"));
    for (const columns of [", member: {read: ja/nein}", ", member: {type: boolean, read: ja / nein}"]) {
      const { tables, plan, findings } = german(columns);
      expect(findings).toEqual([]);
      const member = tables.get("t")?.columns.get("member");
      expect(member?.kind === "boolean" && [...member.values]).toEqual([1, 0, Number.NaN]);
      const bars = plan.pieces.find(({ name }) => name === "bars")?.plan;
      const x = bars?.type === "chart" ? bars.layers[0]?.query.channels.x : undefined;
      expect(["true", "false"].map((name) => categoryText(name, x))).toEqual(["ja", "nein"]);
    }
    expect(german(", member: boolean").findings.map(({ message }) => message)).toEqual([
      '2 cells of member could not be read as a boolean and count as missing: "Ja" in row 1, " nein" in row 2; ' +
        "the words for true and for false are told as read: Ja/nein",
    ]);
    const [first] = german(", member: {type: boolean, read: ja}").findings;
    expect(first).toMatchObject({ code: "wrong-format", severity: "error" });
  });
  test("makes numbers that are not written so", () => {
    const { plan } = compileText(sheet());
    const rate = plan.pieces.find(({ name }) => name === "rate")?.plan;
    const channel = rate?.type === "figure" ? rate.query.channels.value : undefined;
    expect(channel && writeAt(channel, { kind: "number", values: Float64Array.of(0.5) }, 0)).toBe("0.5");
  });
});
