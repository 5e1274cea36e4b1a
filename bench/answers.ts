import { inflateSync } from "fflate";
import { compile } from "../src/core/compile/compile";
import { packTable } from "../src/core/dashboard/pack";
import { unpackTable } from "../src/core/dashboard/unpack";
import { boxIndexer } from "../src/core/link/index/box-index";
import { brushIndexer } from "../src/core/link/index/brush-index";
import type { Indexer } from "../src/core/link/index/in-hand";
import { textIndexer } from "../src/core/link/index/text-index";
import type { SelectionState } from "../src/core/link/selection";
import { Model } from "../src/core/model/model";
import { median, ms, p95, say, timed } from "./measure";

/** Views that cannot be answered by subtraction alone, and all the ways in which readers ask them. */
const SHEET = `still: 1
report: Answers
tables:
  calls:
    read: calls.csv
    columns:
      arrived: {type: datetime, read: "%Y-%m-%d %H:%M"}
      alongside: {type: duration, read: "%H:%M:%S"}
    steps:
      - add:
          lot: concat("lot ", text(mod(row(), 40)))
  berths:
    from: calls
    steps:
      - group: {by: [berth], get: {n: count(), tonnes: sum(tonnes), waited: median(waited)}}
controls:
  lots: {pick: lot, from: calls, as: checkboxes}
  bins: {set: 30, as: slider, range: [5, 60], step: 1}
charts:
  waiting: {from: calls, draw: bars, x: "bin(waited, 40)", y: count()}
  crowd: {from: calls, draw: points, x: waited, y: tonnes}
  total: {from: calls, draw: figure, value: sum(tonnes)}
  by_cargo: {from: calls, draw: bars, y: cargo, x: sum(tonnes), color: berth}
  months: {from: calls, draw: line, x: by_month(arrived), y: mean(tonnes), color: cargo}
  middles: {from: calls, draw: bars, y: berth, x: median(waited)}
  spreads: {from: calls, draw: bars, y: cargo, x: "quantile(alongside, 0.9)"}
  vessels: {from: calls, draw: bars, y: cargo, x: distinct(vessel)}
  widths: {from: calls, draw: bars, x: "bin(alongside, $bins)", y: count()}
  groups: {from: berths, draw: table, columns: [berth, n, tonnes, waited]}
links:
  - brush x on waiting -> filter all
  - brush xy on crowd -> filter all
`;

/** The way of a brush over the rows: it moves on by a hundredth of its axis a frame. */
const MOVES = 80;

/** What a reader's browser has in hand: the plan and the packed columns, and nothing of what they were made from. */
function packedModel(csv: Uint8Array): Model {
  const { plan, tables, findings } = compile({ text: SHEET, fileName: "bench", readFile: () => csv });
  const errors = findings.filter(({ severity }) => severity === "error");
  if (errors.length) throw new Error(errors.map(({ message }) => message).join("\n"));
  const packed = [...tables].map(([name, table]) => {
    const { table: said, blocks } = packTable(name, table);
    return [
      name,
      unpackTable(
        said,
        blocks.map((block) => inflateSync(block)),
      ),
    ] as const;
  });
  return new Model(plan, new Map(packed));
}

export function benchAnswers(csv: Uint8Array) {
  const model = packedModel(csv);
  const rows = model.plan.tables.find(({ name }) => name === "calls")?.rowCount ?? 0;
  const size = `${rows.toLocaleString("en")} rows, 10 views`;
  const pieces = model.plan.pieces.map(({ name }) => name);
  const answerAll = () => {
    for (const piece of pieces)
      for (const asked of model.askedBy(piece)) {
        model.engine.all(asked);
        model.engine.answer(asked);
      }
    model.counts();
    model.rows.ofControl("lots");
  };
  const [, opening] = timed(answerAll);
  say(`first answers, ${size}`, ms(opening));
  const moves = (selection: string, states: (part: number) => SelectionState) => {
    const spent: number[] = [];
    for (let move = 0; move < MOVES; move++)
      spent.push(
        timed(() => {
          model.engine.select(selection, states(move / 100));
          answerAll();
        })[1],
      );
    return spent;
  };
  const report = (what: string, spent: readonly number[], goal: string) =>
    say(
      `${what}, ${size}`,
      `first ${ms(spent[0] ?? 0)}, median ${ms(median(spent))}, p95 ${ms(p95(spent.slice(1)))}`,
      goal,
    );
  /** Takes a selection in hand as the pointer does that comes to it: what will answer its moves is made in slices. */
  const take = (what: string, selection: string, indexer: Indexer) => {
    const slices: number[] = [];
    const [, spent] = timed(() => {
      model.engine.activate(selection, indexer);
      for (const asked of [...pieces.flatMap((piece) => model.askedBy(piece)), ...model.rows.asked()])
        for (let more = true; more; ) {
          const [left, time] = timed(() => model.engine.warm(asked));
          slices.push(time);
          more = left;
        }
    });
    say(`${what} comes in hand, ${size}`, `${ms(spent)}, longest slice ${ms(Math.max(...slices))}`);
  };
  const hundredths = Float64Array.from({ length: 101 }, (_, at) => at);
  const x = hundredths.map((at) => at * 0.6);
  const y = hundredths.map((at) => at * 500);
  const at = (edges: Float64Array, place: number) => edges[Math.min(100, Math.round(place * 100))] as number;
  const tick = (count: number) =>
    timed(() => {
      model.engine.select("lots", { keys: Array.from({ length: count }, (_, lot) => ({ lot: `lot ${lot}` })) });
      answerAll();
    })[1];
  const move = () =>
    timed(() => {
      model.engine.select("waiting", { x: [10 * 0.6, 35 * 0.6] });
      answerAll();
    })[1];
  say(`30 of 40 values ticked, asked for while nothing is ready, ${size}`, ms(tick(30)));
  say(`a brush moved after that, while nothing is ready, ${size}`, ms(move()));
  model.engine.select("waiting", undefined);
  model.engine.select("lots", undefined);
  answerAll();
  take("a box brush", "crowd", boxIndexer);
  report(
    "a box brush over medians, distinct values, a group below it",
    moves("crowd", (part) => ({ x: [at(x, part), at(x, part + 0.2)], y: [at(y, part / 2), at(y, part / 2 + 0.4)] })),
    "16 ms",
  );
  model.engine.select("crowd", undefined);
  answerAll();
  take("a brush over the same", "waiting", brushIndexer({ x }));
  report(
    "a brush over the same",
    moves("waiting", (part) => ({ x: [at(x, part), at(x, part + 0.2)] })),
    "16 ms",
  );
  take("a control of 40 values", "lots", textIndexer);
  say(`30 of 40 values ticked in one control, ${size}`, [30, 29, 12].map(tick).map(ms).join(", then "), "16 ms");
  take("the brush again", "waiting", brushIndexer({ x }));
  say(`the first move of a brush after a control has changed, ${size}`, ms(move()), "16 ms");
  model.engine.select("waiting", undefined);
  model.engine.select("lots", undefined);
  answerAll();
  const steps = [31, 32, 33, 34].map(
    (bins) =>
      timed(() => {
        model.engine.setSetting("bins", bins);
        answerAll();
      })[1],
  );
  say(`one step of a bins slider, ${size}`, steps.map(ms).join(", then "), "50 ms");
}
