import { numberCell, textCell, workbook } from "../../src/core/testing/workbook";
import { Random } from "./random";

/** Files as they really come: for the reports that begin with cleaning them. */

const two = (value: number) => String(value).padStart(2, "0");
const grouped = (value: number) => String(value).replace(/\B(?=(?:\d{3})+$)/g, ".");

/**
 * Tonnes a month as a harbour office exports them: semicolons, points between thousands, two lines of
 * title, a column for each month, a total at the right and at the foot, heads again in the middle.
 */
export function officeThroughput(): string {
  const random = new Random(37);
  const months = Array.from({ length: 36 }, (_, i) => `${2023 + Math.floor(i / 12)}-${two((i % 12) + 1)}`);
  const heads = ["Cargo", "Quay", ...months, "Total"].join(";");
  const kinds: [string, string, number][] = [
    ["grain", "Granary", 520],
    ["grain", "Salt Steps", 180],
    ["fuel", "North Mole", 610],
    ["timber", "Long Quay", 380],
    ["timber", "Old Dock", 90],
    ["salt", "Salt Steps", 210],
    ["containers", "East Basin", 240],
    ["stone", "Ballast Pier", 35],
  ];
  const totals = new Array<number>(months.length + 1).fill(0);
  const rows = kinds.map(([cargo, quay, base]) => {
    const values = months.map((_, i) =>
      random.next() < 0.02
        ? undefined
        : Math.round(base * (1 + 0.2 * Math.sin(i / 2)) * random.between(0.85, 1.15) * 100),
    );
    const sum = values.reduce<number>((total, value) => total + (value ?? 0), 0);
    for (const [at, value] of [...values, sum].entries()) totals[at] = (totals[at] as number) + (value ?? 0);
    return [cargo, quay, ...values.map((value) => (value === undefined ? "-" : grouped(value))), grouped(sum)].join(
      ";",
    );
  });
  rows.splice(4, 0, heads);
  return `\ufeffMerrow Sound Harbour Office;;\nTonnes landed by month;;\n${heads}\n${rows.join("\n")}\n${["Total", "", ...totals.map(grouped)].join(";")}\n`;
}

const SPECIES = [
  [3, "Sea kale", "shore", 0.62],
  [4, "Thrift", "shore", 0.81],
  [7, "Bog myrtle", "wet ground", 0.44],
  [9, "Devil's-bit", "meadow", 0.7],
  [12, "Harebell", "meadow", 0.55],
] as const;

const TREATMENTS = [
  [1, "none", 0],
  [2, "cold, 4 weeks", 0.16],
  [3, "cold, 8 weeks", 0.22],
  [4, "smoke water", 0.07],
] as const;

/** Days since the end of 1899, as workbooks count. */
const serial = (year: number, month: number, day: number) => Date.UTC(year, month - 1, day) / 86_400_000 + 25569;

/** The share of seeds that sprout: by species and treatment, less in later years, never none or all. */
function sprouting(random: Random, species: number, base: number, gain: number, year: number): number {
  const helped = gain * (species === 7 || species === 12 ? 1.6 : 0.5);
  const share = base + helped + random.normal() * 0.07 - (year - 2023) * 0.02;
  return Math.min(0.98, Math.max(0.02, share));
}

/** One trial, of which now and then nothing was counted. */
function trialRow(
  random: Random,
  lot: number,
  year: number,
  [code, , , base]: (typeof SPECIES)[number],
  [treatment, , gain]: (typeof TREATMENTS)[number],
): string[] {
  const sown = serial(year, random.whole(2, 4), random.whole(1, 28));
  const seeds = random.pick([25, 50, 50, 100]);
  const share = sprouting(random, code, base, gain, year);
  const lost = random.next() < 0.03;
  return [
    textCell(`L${String(lot).padStart(4, "0")}`),
    numberCell(random.next() < 0.01 ? 99 : code),
    numberCell(treatment),
    numberCell(sown, 1),
    ...(lost
      ? ["", numberCell(seeds), "", textCell(random.pick(["tray dropped", "label lost"]))]
      : [numberCell(sown + random.whole(20, 45), 1), numberCell(seeds), numberCell(Math.round(seeds * share)), ""]),
  ];
}

/**
 * The germination trials of a made-up seed library: a sheet of trials with species and treatment as
 * numbers under a title, an empty row between years and dates as workbooks have them, and a sheet of codes.
 */
export function trialsWorkbook(): Uint8Array {
  const random = new Random(53);
  const rows: string[][] = [
    [textCell("Fenmoor Seed Library, germination trials")],
    [],
    ["lot", "species", "treatment", "sown", "counted", "seeds", "sprouted", "remark"].map(textCell),
  ];
  let lot = 100;
  for (const year of [2023, 2024, 2025]) {
    if (year > 2023) rows.push([]);
    for (const species of SPECIES)
      for (const treatment of TREATMENTS)
        for (let repeat = 0; repeat < 3; repeat++) {
          lot += random.whole(1, 3);
          rows.push(trialRow(random, lot, year, species, treatment));
        }
  }
  return workbook({
    Trials: rows,
    Codes: [
      ["code", "name", "habitat"].map(textCell),
      ...SPECIES.map(([code, name, habitat]) => [
        numberCell(code),
        textCell(name.replace("'", "&apos;")),
        textCell(habitat),
      ]),
    ],
    Treatments: [
      ["code", "treatment"].map(textCell),
      ...TREATMENTS.map(([code, name]) => [numberCell(code), textCell(name)]),
    ],
  });
}
