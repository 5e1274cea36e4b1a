import { describe, expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import { buildDashboard } from "../dashboard/build";
import { Model } from "../model/model";
import type { CompileInput } from "./compile";
import { compile } from "./compile";

const SHEET = (style: string) => `still: 1
report: R
tables:
  t:
    rows: "k,v,photo\\na,1234.5,a.png\\nb,2,none.png\\nc,3,https://example.org/c.png"
    columns: {photo: {role: image}}
charts:
  bars: {from: t, draw: bars, x: k, y: sum(v)}
  kinds: {from: t, draw: bars, x: k, y: sum(v), color: k}
  list: {from: t, draw: table}
style: ${style}
`;

const PNG = Uint8Array.of(137, 80, 78, 71);

const inputOf = (style: string): CompileInput => ({
  text: SHEET(style),
  fileName: "s",
  readFile: (path) => (path === "a.png" || path === "logo.svg" ? PNG : undefined),
});

const codes = (style: string) => compile(inputOf(style)).findings.map(({ code }) => code);

function paintsOf(style: string, piece: string): string[] {
  const { plan, tables } = compile(inputOf(style));
  const input = new Model(plan, tables).chartInput(piece, 400, 300, new Set());
  if (!input) throw new Error("no chart");
  return [...(drawChart(input).panels[0]?.layers[0]?.shapes[0]?.paints ?? [])];
}

describe("the style of a report", () => {
  test("a palette of its own colours plain marks and categories", () => {
    expect(paintsOf('{palette: ["#123456", "#654321"]}', "bars")).toEqual(["#123456"]);
    expect(paintsOf('{palette: ["#123456", "#654321"]}', "kinds")).toEqual(["#123456", "#654321", "#123456"]);
    expect(paintsOf("{palette: wharf}", "bars")).toEqual(["wharf:0"]);
    expect(paintsOf("{}", "bars")).toEqual(["quay:0"]);
  });

  test("colours that can hardly be seen on the ground are told", () => {
    expect(codes('{accent: "#ffeeaa"}')).toContain("low-contrast");
    expect(codes('{accent: "#ffeeaa", ground: dark}')).not.toContain("low-contrast");
    expect(codes('{palette: ["#000000", "#eeeeee"]}').filter((code) => code === "low-contrast")).toHaveLength(1);
  });

  test("numbers have the marks that it says, and others are not changed by it", () => {
    const axis = (style: string) => {
      const { plan, tables } = compile(inputOf(style));
      const input = new Model(plan, tables).chartInput("bars", 400, 300, new Set());
      return JSON.stringify(input && drawChart(input).scene);
    };
    expect(axis('{numbers: {decimal: ",", thousands: " "}}')).toContain('"1 000"');
    expect(axis("{}")).toContain('"1,000"');
    expect(codes('{numbers: {decimal: ",", thousands: ","}}')).toContain("wrong-value");
  });

  test("a logo and pictures beside the sheet go along, those of other places do not", () => {
    const { html, packing, findings } = buildDashboard(inputOf("{logo: logo.svg}"), { viewer: () => "" });
    expect(html).toContain('<img class="logo" alt="" src="data:image/svg+xml;base64,iVBORw==">');
    expect(html).toContain('{"a.png":"data:image/png;base64,iVBORw=="}');
    expect(html).toContain("img-src data: blob:;");
    expect(packing.filter(({ kind }) => kind === "picture").map(({ column }) => column)).toEqual(["logo", "pictures"]);
    expect(findings.map(({ message }) => message)).toEqual(['pictures of rows: there is no file "none.png"']);
    const { span } = findings[0] ?? {};
    expect(inputOf("{logo: logo.svg}").text.slice(span?.start, span?.end)).toBe("image");
  });

  test("pictures are fetched only where the author says so", () => {
    const { html } = buildDashboard(inputOf("{pictures: outside}"), { viewer: () => "" });
    expect(html).toContain("img-src data: blob: https: http:;");
    expect(html).not.toContain('id="pictures"');
  });
});
