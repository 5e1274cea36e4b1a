import { readFileSync } from "node:fs";
import { expect, type Page } from "@playwright/test";
import { parquetWriteBuffer } from "hyparquet-writer";
import { axe, complaints, drop, exchange, find, goTo, keptText, openDesk, rewrite, test } from "./desk";

const head = (page: Page, column: string) =>
  page.getByRole("columnheader").getByRole("button", { name: new RegExp(`^${column},`) });
const act = (page: Page, word: string) =>
  page.getByRole("toolbar", { name: /^What to do with/ }).getByRole("button", { name: word, exact: true });
const steps = (page: Page, table: string) => page.getByRole("list", { name: `Steps of ${table}` });
const write = (page: Page) => page.getByRole("button", { name: "write it into the sheet" });

/** The demo's calls with nothing said of them yet. */
const RAW =
  "still: 1\nreport: Quay calls\n\ntables:\n  calls:\n    read: calls.csv\n\ncharts:\n  total:\n    draw: figure\n    from: calls\n    value: count()\n";

async function rawCalls(page: Page) {
  const desk = await openDesk(page, "all calls");
  await rewrite(desk, RAW);
  await goTo(page, "Tables");
  await expect(page.getByText("24,616 rows of 12 columns")).toBeVisible();
  return desk;
}

test("calls.csv is cleaned from raw to ready by gestures alone, and the sheet reads as if written by hand", async ({
  page,
}) => {
  const said = complaints(page);
  const desk = await rawCalls(page);
  // Ten cells have odd dates; how the rest is read is said by the author, and seen before it is taken.
  await head(page, "arrived").click();
  await act(page, "kind").click();
  const kind = page.getByRole("form", { name: "How arrived is read" });
  await kind.getByRole("radio", { name: "date with time" }).check();
  await kind.getByRole("textbox", { name: "its letters" }).fill("%Y-%m-%d %H:%M");
  await expect(kind.getByRole("status")).toContainText("10 cells cannot be read so");
  await write(page).click();
  // Words of a column, said once.
  await head(page, "tonnes").click();
  await act(page, "words").click();
  const words = page.getByRole("form", { name: "Words of tonnes" });
  await words.getByRole("textbox", { name: "label" }).fill("Cargo");
  await words.getByRole("textbox", { name: "unit" }).fill("t");
  await write(page).click();
  // Duplicates by their number.
  await head(page, "call_id").click();
  await act(page, "drop duplicates").click();
  await expect(page.getByRole("form", { name: "Drop duplicate rows" }).getByRole("status")).toContainText(
    "24,616 rows become 24,400",
  );
  await write(page).click();
  await expect(steps(page, "calls")).toContainText("216 duplicates");
  // A rule, with its reason.
  await page.getByRole("toolbar", { name: "Add a step" }).getByRole("button", { name: "keep by a rule" }).click();
  const rule = page.getByRole("form", { name: "Keep rows by a rule" });
  await rule.getByRole("textbox", { name: "keep where" }).fill("tonnes > 0 and known(lef)");
  await expect(rule.getByRole("status")).toContainText('no column "lef"');
  await expect(write(page)).toBeDisabled();
  await rule.getByRole("textbox", { name: "keep where" }).fill("tonnes > 0 and known(left)");
  await rule.getByRole("textbox", { name: "why" }).fill("Calls that are still open have no tonnage yet");
  await expect(rule.getByRole("status")).toContainText("24,400 rows become 24,178");
  await page.keyboard.press("Enter");
  // Two heads: a ratio, of the cargo and the time it took.
  await head(page, "tonnes").click();
  await head(page, "alongside").click({ modifiers: ["Shift"] });
  await act(page, "ratio").click();
  await expect(head(page, "tonnes_per_alongside")).toBeVisible();
  // Two columns are not needed.
  await head(page, "weight").click();
  await act(page, "drop").click();
  await expect(page.getByText("24,178 rows of 12 columns")).toBeVisible();
  const ready = `still: 1
report: Quay calls

tables:
  calls:
    read: calls.csv
    columns:
      arrived: {type: datetime, read: '%Y-%m-%d %H:%M'}
      tonnes: {label: Cargo, unit: t}
    steps:
      - unique: [call_id]
      - keep: tonnes > 0 and known(left)
        why: Calls that are still open have no tonnage yet
      - add:
          tonnes_per_alongside: tonnes / hours(alongside)
      - drop: [weight]

charts:
  total:
    draw: figure
    from: calls
    value: count()
`;
  await expect.poll(() => keptText(page)).toBe(ready);
  await expect(desk.tally).toContainText("nothing to mend");
  // One key a gesture, and all is as it was.
  for (let gesture = 0; gesture < 6; gesture++) await page.keyboard.press("Control+z");
  await expect.poll(() => keptText(page)).toBe(RAW);
  await expect(page.getByText("24,616 rows of 12 columns")).toBeVisible();
  expect(said).toEqual([]);
});

test("values are kept, excluded, brushed; search goes over all columns; all columns are summed up", async ({
  page,
}) => {
  await rawCalls(page);
  await head(page, "cargo").click();
  await act(page, "keep or exclude").click();
  const tray = page.getByRole("form", { name: "Keep or exclude rows by cargo" });
  await tray.getByRole("radio", { name: "exclude these" }).check();
  await tray.getByRole("checkbox", { name: /^stone/ }).check();
  await expect(tray.getByRole("table")).toContainText("C-2");
  await write(page).click();
  await expect.poll(() => keptText(page)).toContain('      - keep: missing(cargo) or cargo != "stone"\n');
  // Brushing a head's bars finds rows, which can then be kept.
  await page
    .getByRole("main")
    .getByRole("table")
    .evaluate((rows) => rows.scrollTo(0, 0));
  const bars = page.getByRole("img", { name: "how cargo spreads" });
  const box = await bars.boundingBox();
  if (!box) throw new Error("no bars");
  await page.mouse.move(box.x + 2, box.y + 9);
  await page.mouse.down();
  await page.mouse.move(box.x + 6, box.y + 9, { steps: 3 });
  await page.mouse.up();
  await expect(page.getByRole("toolbar", { name: "What to do with the rows that are brushed" })).toContainText(
    'where cargo = "grain"',
  );
  const rows = page.getByRole("table", { name: "Rows of calls" });
  await expect(rows.getByRole("row").nth(3)).toContainText("grain");
  await page.getByRole("button", { name: "keep these" }).click();
  await expect.poll(() => keptText(page)).toContain('      - keep: cargo = "grain"\n');
  // Search looks into every column.
  await page.getByRole("searchbox", { name: "Find in calls" }).fill("salt kestrel");
  await expect(page.getByRole("main").getByText(/^\d+ of [\d,]+ rows$/)).toBeVisible();
  await expect(rows.getByRole("row").nth(1)).toContainText("Salt Kestrel");
  await page.getByRole("searchbox", { name: "Find in calls" }).fill("");
  await page.getByRole("button", { name: "all columns summed up" }).click();
  const summed = page.getByRole("region", { name: "All columns summed up" });
  await expect(summed.getByRole("row", { name: /^waited/ })).toContainText("number");
  await expect(summed.getByRole("row", { name: /^cargo/ })).toContainText("grain 7,");
  expect(await axe(page)).toEqual([]);
});

test("steps are written over, switched off, moved and taken away where they stand", async ({ page }) => {
  await openDesk(page, "all calls");
  await goTo(page, "Tables");
  const list = steps(page, "calls");
  await list.getByRole("button", { name: /^keep tonnes/ }).click();
  const own = page.getByRole("toolbar", { name: "Step 2" });
  await own.getByRole("button", { name: "switch off" }).click();
  await expect(list).toContainText("switched off for a look");
  await expect.poll(() => keptText(page)).toContain("        off: true\n");
  await expect(page.getByText("24,400 rows of 12 columns")).toBeVisible();
  await own.getByRole("button", { name: "switch on" }).click();
  await expect(page.getByText("24,178 rows of 12 columns")).toBeVisible();
  await own.getByRole("button", { name: "write", exact: true }).click();
  const text = page.getByRole("textbox", { name: "Text of the step" });
  await expect(text).toHaveValue(/^keep: tonnes > 0 and known\(left\)\nwhy: /);
  await text.fill("keep: tonnes > 1000");
  await page.keyboard.press("Control+Enter");
  await expect.poll(() => keptText(page)).toContain("      - keep: tonnes > 1000\n      - add:");
  await own.getByRole("button", { name: "up" }).click();
  await expect.poll(() => keptText(page)).toMatch(/steps:\n {6}- keep: tonnes > 1000\n {6}- unique/);
  await page.getByRole("toolbar", { name: "Step 1" }).getByRole("button", { name: "take away" }).click();
  await expect.poll(() => keptText(page)).toMatch(/steps:\n {6}- unique: \[call_id\]\n {6}- add:/);
});

test("tables of every kind of file are dropped in and made ready: long, looked up, grouped", async ({ page }) => {
  const said = complaints(page);
  const desk = await openDesk(page);
  await goTo(page, "Tables");
  const parquet = Buffer.from(
    parquetWriteBuffer({
      columnData: [
        { name: "berth", data: ["Granary", "Old Dock"], type: "STRING" },
        { name: "cranes", data: [3, 1], type: "INT32" },
      ],
    }),
  );
  const own = (name: string) => ({ name: name.split("/").at(-1) as string, bytes: readFileSync(`examples/${name}`) });
  await drop(page.getByRole("main"), [
    own("throughput/throughput.csv"),
    own("survey/survey.gpx"),
    own("quay-calls/coast.geojson"),
    own("germination/trials.xlsx"),
    { name: "cranes.parquet", bytes: parquet },
    { name: "staff.json", bytes: Buffer.from('[{"berth": "Granary", "shift": {"day": 4, "night": 2}}]') },
    { name: "notes.tsv", bytes: Buffer.from("berth\tnote\nGranary\tdry\n") },
  ]);
  await expect(page.getByRole("button", { name: "notes", exact: true })).toBeVisible();
  const expected: [string, string][] = [
    ["throughput", "9 rows of 39 columns"],
    ["survey", "1,800 rows of 7 columns"],
    ["coast", "2 rows of 2 columns"],
    ["trials", "180 rows of 8 columns"],
    ["cranes", "2 rows of 2 columns"],
    ["staff", "1 row of 3 columns"],
    ["notes", "1 row of 2 columns"],
  ];
  for (const [table, words] of expected) {
    await page.getByRole("button", { name: table, exact: true }).click();
    await expect(page.getByText(words, { exact: true })).toBeVisible();
  }
  // The wide table: its title was seen, a dash is offered as missing, its months are made long.
  await page.getByRole("button", { name: "throughput", exact: true }).click();
  const intake = page.getByRole("region", { name: "What became of throughput.csv" });
  await expect(intake).toContainText("row 3 names the columns");
  await intake.getByRole("button", { name: 'take "-" as missing' }).click();
  await expect.poll(() => keptText(page)).toContain("    missing_as: ['-']\n");
  await page.getByRole("toolbar", { name: "Add a step" }).getByRole("button", { name: "make long" }).click();
  const long = page.getByRole("form", { name: "Make long: heads become values" });
  await expect(long.getByRole("checkbox", { name: "2023-01" })).toBeChecked();
  await expect(long.getByRole("checkbox", { name: "Cargo" })).not.toBeChecked();
  await expect(long.getByRole("status")).toContainText("9 rows become 324");
  await write(page).click();
  await expect
    .poll(() => keptText(page))
    .toContain("      - unpivot: {columns: {all_but: [Cargo, Quay, Total]}, name: {month: date}, value: value}\n");
  // A look-up says how many rows find one before it is taken.
  await page.getByRole("button", { name: "calls", exact: true }).click();
  // Back at a table that was looked at before, its rows are there again.
  await expect(page.getByRole("table", { name: "Rows of calls" }).getByRole("row").nth(1)).toContainText("C-20001");
  await head(page, "berth").click();
  await page.getByRole("toolbar", { name: "Add a step" }).getByRole("button", { name: "look up" }).click();
  const join = page.getByRole("form", { name: "Look up in another table" });
  await join.getByRole("combobox", { name: "table" }).selectOption("cranes");
  await join.getByRole("checkbox", { name: "cranes" }).check();
  await expect(join.getByRole("status")).toContainText(/[\d,]+ found none in cranes/);
  await write(page).click();
  await expect.poll(() => keptText(page)).toContain("      - join: {table: cranes, on: berth, get: [cranes]}\n");
  await expect(desk.tally).toContainText("nothing to mend");
  expect(said).toEqual([]);
});

test("next month's file is compared with this month's before it takes its place", async ({ page }) => {
  const desk = await rawCalls(page);
  await exchange(desk, "value: count()", "value: sum(tonnes)");
  await goTo(page, "Tables");
  const lines = readFileSync("examples/quay-calls/calls.csv", "utf8").split("\n").slice(0, 3000);
  const changed = [
    (lines[0] as string).replace("tonnes", "tons"),
    ...lines.slice(1).map((line) => line.replace(",grain,", ",oats,")),
  ].join("\n");
  await drop(page.getByRole("main"), [{ name: "calls.csv", bytes: Buffer.from(changed) }]);
  const dialog = page.getByRole("dialog", { name: "calls.csv is here again" });
  await expect(dialog).toContainText("tonnes seems to be called tons now");
  await expect(dialog).toContainText("cargo has new values: oats");
  await expect(dialog).toContainText("2,999 rows where there were 24,616");
  await expect(dialog).toContainText('no column "tonnes"');
  expect(await axe(page)).toEqual([]);
  await dialog.getByRole("button", { name: "keep the one that is there" }).click();
  await expect(page.getByText("24,616 rows of 12 columns")).toBeVisible();
  await drop(page.getByRole("main"), [{ name: "calls.csv", bytes: Buffer.from(changed) }]);
  await dialog.getByRole("button", { name: "replace it" }).click();
  await expect(page.getByText("2,999 rows of 12 columns")).toBeVisible();
  await expect(desk.tally).toContainText("1 to mend");
  await page.keyboard.press("Control+z");
  await expect(page.getByText("24,616 rows of 12 columns")).toBeVisible();
  await expect(desk.tally).toContainText("nothing to mend");
});

test("rows are written into the sheet, and a table is made from another", async ({ page }) => {
  const desk = await rawCalls(page);
  await page.getByRole("button", { name: "write rows" }).click();
  await expect(desk.sheet).toBeFocused();
  await page.keyboard.insertText("berth,cranes");
  await expect.poll(() => keptText(page)).toContain("  rows:\n    rows: |\n      berth,cranes\n      first,1\n");
  await expect(page.getByText("1 row of 2 columns", { exact: true })).toBeVisible();
  await page.getByRole("button", { name: "calls", exact: true }).click();
  await page.getByRole("button", { name: "one from calls" }).click();
  await expect.poll(() => keptText(page)).toContain("  calls_2:\n    from: calls\n");
  await find(desk, "calls_2");
});

test("pictures stand in their rows as thumbnails, in the workbench and in the file, and nothing is fetched for them", async ({
  page,
}) => {
  const asked: string[] = [];
  page.on("request", (request) => asked.push(request.url()));
  const desk = await openDesk(page);
  const dot = "data:image/gif;base64,R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7";
  await rewrite(
    desk,
    `still: 1\nreport: Signs\ntables:\n  signs:\n    rows:\n      - {name: Buoy, picture: "${dot}"}\n      - {name: Lamp, picture: "https://elsewhere.invalid/lamp.png"}\n    columns: {picture: {role: image}}\ncharts:\n  list: {draw: table, from: signs}\n`,
  );
  await goTo(page, "Tables");
  const rows = page.getByRole("table", { name: "Rows of signs" });
  await expect(rows.getByRole("row").nth(1).locator("img")).toHaveAttribute("src", dot);
  await expect(rows.getByRole("row").nth(2)).toContainText("https://elsewhere.invalid/lamp.png");
  await expect(rows.getByRole("row").nth(2).locator("img")).toHaveCount(0);
  await goTo(page, "Pages");
  await expect(desk.proof.locator("section[data-piece=list] img")).toHaveCount(1);
  expect(asked.filter((url) => url.includes("elsewhere"))).toEqual([]);
});

test("every step of a whole table is found in the palette too", async ({ page }) => {
  await openDesk(page);
  await page.keyboard.press("Control+k");
  await page.getByRole("searchbox", { name: "Find a command" }).fill("make long");
  await page.keyboard.press("Enter");
  await expect(
    page.getByRole("main", { name: "Tables" }).getByRole("form", { name: "Make long: heads become values" }),
  ).toBeVisible();
  await page.keyboard.press("Escape");
});
