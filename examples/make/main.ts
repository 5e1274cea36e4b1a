/** Writes the demo data of Merrow Sound: `make.mjs` for the committed files, `make.mjs calls ROWS FILE` for large ones. */

import { once } from "node:events";
import { createWriteStream, writeFileSync } from "node:fs";
import { callLines } from "./calls";
import { deliveryLines, pumpLines } from "./months";
import { officeThroughput, trialsWorkbook } from "./nasty";
import { berthLines, coastGeoJson, surveyGpx, throughputLines, tideLines } from "./others";
import { parishesGeoJson } from "./parishes";
import {
  courseLines,
  ferryLines,
  firingLines,
  lampLines,
  loanLines,
  orchardLines,
  roundLines,
  walkGpx,
  wasteLines,
  weatherLines,
} from "./stories";

/** The tables of the small reports, by their file. */
const STORIES = {
  "hillside-weather/days.csv": weatherLines,
  "bakery-waste/sheets.csv": wasteLines,
  "library-loans/loans.csv": loanLines,
  "orchards/orchards.csv": orchardLines,
  "ferry-lines/passengers.csv": ferryLines,
  "evening-school/courses.csv": courseLines,
  "lamp-catalogue/lamps.csv": lampLines,
  "kiln-firings/firings.csv": firingLines,
  "parcel-rounds/rounds.csv": roundLines,
  "dairy-month/deliveries.csv": deliveryLines,
  "pump-room/pumps.csv": pumpLines,
};

async function writeLines(file: string, lines: Iterable<string>) {
  const stream = createWriteStream(file);
  let batch = "";
  for (const line of lines) {
    batch += `${line}\n`;
    if (batch.length < 1 << 20) continue;
    if (!stream.write(batch)) await once(stream, "drain");
    batch = "";
  }
  stream.end(batch);
  await once(stream, "finish");
}

const [what, rows, file] = process.argv.slice(2);
if (what === "calls") {
  await writeLines(file as string, callLines(Number(rows), 5));
} else {
  const folder = "examples/quay-calls";
  await writeLines(`${folder}/calls.csv`, callLines(24_400, 5));
  await writeLines("examples/berth-report/calls.csv", callLines(1_500, 9));
  await writeLines(`${folder}/berths.csv`, berthLines());
  await writeLines(`${folder}/tide.csv`, tideLines());
  await writeLines(`${folder}/throughput.csv`, throughputLines());
  writeFileSync(`${folder}/survey.gpx`, surveyGpx());
  writeFileSync("examples/survey/survey.gpx", surveyGpx());
  writeFileSync("examples/throughput/throughput.csv", officeThroughput());
  writeFileSync("examples/germination/trials.xlsx", trialsWorkbook());
  writeFileSync(`${folder}/coast.geojson`, coastGeoJson());
  for (const [file, lines] of Object.entries(STORIES)) await writeLines(`examples/${file}`, lines());
  writeFileSync("examples/gallery/parishes.geojson", parishesGeoJson());
  writeFileSync("examples/ridge-walk/walk.gpx", walkGpx());
}
