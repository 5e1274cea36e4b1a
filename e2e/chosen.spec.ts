import { writeFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import { expectNoNoise, leftOf, openFile, piece, plot, rowsOf, stateOf } from "./dashboard";
import { OUT, still } from "./prepare";

/** A report in which readers choose the table, the axis and the aggregate, and figures speak of what they brush. */
const SHEET = `still: 1
report: Choosing
tables:
  this_year:
    rows: |
      id,berth,tags,t,w
      1,A,"dry, deep",10,1
      2,A,deep,20,2
      3,B,"wide, dry",30,4
      4,B,,40,8
  last_year: {from: this_year, steps: [{keep: id < 4}]}
  shown:
    from: $year
    columns: {tags: {split: ", "}}
    steps:
      - join: {table: berths, on: berth, get: [quay]}
      - add: {so_far: running_total(t)}
  berths: {rows: [{berth: A, quay: North}, {berth: B, quay: South}]}
controls:
  year: {set: this_year, as: menu, of: [this_year, last_year]}
  axis: {set: t, as: menu, of: [t, w]}
  how: {set: sum, as: menu, of: [sum, max]}
  tags: {pick: tags, from: shown, as: checkboxes}
charts:
  dots: {from: shown, draw: points, x: id, y: so_far, color: picked(dots)}
  bars: {from: shown, draw: bars, x: quay, y: "agg($how, chosen($axis))"}
  brushed: {from: shown, draw: figure, value: sum(t) of dots, against: sum(t) of all}
links:
  - brush x on dots -> crosshair dots
`;

test("readers choose a table, an axis, an aggregate, one of several values; figures follow what is brushed", async ({
  context,
}) => {
  writeFileSync(`${OUT}/choosing.still.yaml`, SHEET);
  const built = still("build", `${OUT}/choosing.still.yaml`);
  expect(built.stderr).not.toContain("error");
  const opened = await openFile(context, "choosing.html");
  const { page } = opened;
  const bars = async () => ((await rowsOf(page, "bars")) as { x: string; y: number }[]).map(({ x, y }) => [x, y]);
  expect(await bars()).toEqual([
    ["North", 30],
    ["South", 70],
  ]);
  await page.evaluate(() => window.stillHarbor.set("how", "max"));
  await page.evaluate(() => window.stillHarbor.set("axis", "w"));
  expect(await bars()).toEqual([
    ["North", 2],
    ["South", 8],
  ]);
  await page.getByLabel("year").selectOption({ label: "last_year" });
  await expect.poll(bars).toEqual([
    ["North", 2],
    ["South", 4],
  ]);
  expect(await leftOf(page, "shown")).toBe(3);
  await page.getByLabel("year").selectOption({ label: "this_year" });
  // A cell of several values is picked by any of them.
  await expect(page.getByRole("group", { name: /tags/ }).getByRole("listitem")).toHaveText([
    /deep\s*2/,
    /dry\s*2/,
    /wide\s*1/,
    /missing\s*1/,
  ]);
  await page.evaluate(() => window.stillHarbor.set("tags", ["dry"]));
  expect(await leftOf(page, "shown")).toBe(2);
  await page.evaluate(() => window.stillHarbor.clear());
  const figure = page.locator("section[data-piece=brushed]");
  await page.evaluate(() => window.stillHarbor.select("dots", { x: [2, 4] }));
  await expect(figure).toContainText("50");
  const dots = (await rowsOf(page, "dots")) as { color: boolean }[];
  expect(dots.map(({ color }) => color)).toEqual([false, true, true, false]);
  await page.evaluate(() => window.stillHarbor.clear("dots"));
  await expect(figure).toContainText("100");
  expectNoNoise(opened, 1);
});

test("a shared rule stands in the middle of bars and cells, and says which they are", async ({ context }) => {
  writeFileSync(
    `${OUT}/ruled.still.yaml`,
    `still: 1
report: Ruled
tables:
  t:
    rows: |
      d,k,n
      2024-01-10,a,3
      2024-02-10,a,5
      2024-02-20,b,4
      2024-03-05,b,2
charts:
  line: {from: t, draw: line, x: by_month(d), y: sum(n)}
  bars: {from: t, draw: bars, x: by_month(d), y: sum(n)}
  beside: {from: t, draw: bars, x: by_month(d), y: sum(n), color: k, stacking: beside}
  cells: {from: t, draw: heatmap, x: by_month(d), y: k, color: sum(n)}
links:
  - hover x on line -> crosshair all
`,
  );
  expect(still("build", `${OUT}/ruled.still.yaml`).stderr).not.toContain("error");
  const { page } = await openFile(context, "ruled.html");
  const line = page.locator("section[data-piece=line]").getByRole("application");
  const box = await line.boundingBox();
  if (!box) throw new Error("no plot");
  await page.mouse.move(box.x + box.width * 0.4, box.y + box.height / 2);
  for (const name of ["bars", "beside", "cells"]) {
    const over = page.locator(`section[data-piece=${name}] svg.over`);
    await expect(over.locator("text", { hasText: "February 2024" })).toHaveCount(1);
    const rule = await over.locator("line").boundingBox();
    // The word of a month stands under the middle of its bar.
    const ticks = page.locator(`section[data-piece=${name}] svg text`, { hasText: /^Feb$/ });
    const tick = await ticks.first().boundingBox();
    if (!rule || !tick) throw new Error(`nothing drawn in ${name}`);
    expect(Math.abs(rule.x - (tick.x + tick.width / 2))).toBeLessThan(3);
  }
});

test("a shared rule stands at the same name, be the other axis a stretch or names; settings with signs are kept", async ({
  context,
}) => {
  writeFileSync(
    `${OUT}/named.still.yaml`,
    `still: 1
report: Named
tables:
  t:
    rows: |
      hour,k,n
      5,Ash & Øre,3
      8,Ash & Øre,5
      9,Birch=1,4
      23,Birch=1,2
controls:
  who: {set: All, as: text}
  of: {set: Birch=1, as: menu, of: "values(t, k)"}
  sizes: {pick: "bin_width(n, 2)", from: t, as: checkboxes}
charts:
  line: {title: "{$who} of {$of}", from: t, draw: line, x: hour, y: sum(n)}
  bars: {from: t, draw: bars, x: hour, y: sum(n)}
  kinds: {from: t, draw: bars, x: k, y: sum(n)}
  others: {from: t, draw: bars, x: k, y: count()}
links:
  - hover x on line -> crosshair bars
  - hover x on kinds -> crosshair others
  - hover on bars -> crosshair line
`,
  );
  expect(still("build", `${OUT}/named.still.yaml`).stderr).not.toContain("error");
  const { page } = await openFile(context, "named.html");
  for (const [source, target, word] of [
    ["line", "bars", "9"],
    ["kinds", "others", "Birch=1"],
  ] as const) {
    await plot(page, source).focus();
    for (const key of source === "line" ? ["Home", "ArrowRight", "ArrowRight"] : ["End"])
      await page.keyboard.press(key);
    const over = piece(page, target).locator("svg.over");
    await expect(over.locator("text[paint-order]")).toHaveText(word);
    const rule = await over.locator("line").boundingBox();
    const named = piece(page, target).locator("svg text:not([paint-order])", { hasText: new RegExp(`^${word}$`) });
    const tick = await named.first().boundingBox();
    if (!rule || !tick) throw new Error(`nothing drawn in ${target}`);
    expect(Math.abs(rule.x - (tick.x + tick.width / 2))).toBeLessThan(3);
  }
  // The nearest mark, and not only the nearest place, may hold the rule.
  await plot(page, "bars").focus();
  await page.keyboard.press("End");
  await expect(piece(page, "line").locator("svg.over text[paint-order]")).toHaveText("23");
  await page.keyboard.press("Escape");
  // A bin is picked by what it holds, and known to scripts by its start.
  await expect(page.getByRole("group", { name: /^n/ }).getByRole("listitem")).toHaveText([/2 to 4\s*2/, /4 to 6\s*2/]);
  await page.evaluate(() => window.stillHarbor.set("sizes", [4]));
  await expect(page.locator(".sentence")).toContainText("2 of 4 t where n is 4 to 6");
  expect(await leftOf(page, "t")).toBe(2);
  expect(await stateOf(page)).toMatchObject({ sizes: [4] });
  const kept = { who: 'A&B #1 100% "ø" .~', of: "Ash & Øre" };
  for (const name of ["who", "of"] as const)
    await page.evaluate(([key, value]) => window.stillHarbor.set(key as string, value), [name, kept[name]]);
  expect(await stateOf(page)).toMatchObject({ who: kept.who, of: kept.of });
  await page.reload();
  await page.evaluate(() => window.stillHarbor.ready);
  expect(await stateOf(page)).toMatchObject({ ...kept, sizes: [4] });
  await expect(piece(page, "line").getByRole("heading")).toHaveText(`${kept.who} of ${kept.of}`);
});
