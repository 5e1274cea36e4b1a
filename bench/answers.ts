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

/** A model whose ten views are asked again and again, with what was measured told as it comes. */
class Trial {
  private readonly model: Model;
  private readonly pieces: readonly string[];
  private readonly size: string;

  constructor(csv: Uint8Array) {
    this.model = packedModel(csv);
    const rows = this.model.plan.tables.find(({ name }) => name === "calls")?.rowCount ?? 0;
    this.pieces = this.model.plan.pieces.map(({ name }) => name);
    this.size = `${rows.toLocaleString("en")} rows, 10 views`;
  }

  private answerAll() {
    const { engine } = this.model;
    for (const piece of this.pieces)
      for (const asked of this.model.askedBy(piece)) {
        engine.all(asked);
        engine.answer(asked);
      }
    this.model.counts();
    this.model.rows.ofControl("lots");
  }

  say(what: string, figures: string, goal?: string) {
    say(`${what}, ${this.size}`, figures, goal);
  }

  /** The time in which everything is answered after a change, in milliseconds. */
  after(change: (engine: Model["engine"]) => void = () => undefined): number {
    return timed(() => {
      change(this.model.engine);
      this.answerAll();
    })[1];
  }

  /** A selection moved over its stretch by a hundredth a frame. */
  moved(what: string, selection: string, states: (part: number) => SelectionState) {
    const spent = Array.from({ length: MOVES }, (_, move) =>
      this.after((engine) => engine.select(selection, states(move / 100))),
    );
    const times = `first ${ms(spent[0] ?? 0)}, median ${ms(median(spent))}, p95 ${ms(p95(spent.slice(1)))}`;
    this.say(what, times, "16 ms");
  }

  /** Takes a selection in hand as the pointer does that comes to it: what will answer its moves is made in slices. */
  take(what: string, selection: string, indexer: Indexer) {
    const { engine, rows } = this.model;
    const slices: number[] = [];
    const [, spent] = timed(() => {
      engine.activate(selection, indexer);
      for (const asked of [...this.pieces.flatMap((piece) => this.model.askedBy(piece)), ...rows.asked()])
        for (let more = true; more; ) {
          const [left, time] = timed(() => engine.warm(asked));
          slices.push(time);
          more = left;
        }
    });
    this.say(`${what} comes in hand`, `${ms(spent)}, longest slice ${ms(Math.max(...slices))}`);
  }

  /** Nothing is selected any more. */
  letGo(...selections: readonly string[]) {
    this.after((engine) => {
      for (const selection of selections) engine.select(selection, undefined);
    });
  }
}

/** The edges on which brushes end, a hundred and one along each axis. */
const HUNDREDTHS = Float64Array.from({ length: 101 }, (_, at) => at);
const X = HUNDREDTHS.map((at) => at * 0.6);
const Y = HUNDREDTHS.map((at) => at * 500);
const at = (edges: Float64Array, part: number) => edges[Math.min(100, Math.round(part * 100))] as number;
const along = (part: number): [number, number] => [at(X, part), at(X, part + 0.2)];

/** All answers that no subtraction gives: after ticks, under a box, under a brush, at another number of bins. */
export function benchAnswers(csv: Uint8Array) {
  const trial = new Trial(csv);
  trial.say("first answers", ms(trial.after()));
  const tick = (count: number) =>
    trial.after((engine) =>
      engine.select("lots", { keys: Array.from({ length: count }, (_, lot) => ({ lot: `lot ${lot}` })) }),
    );
  const move = () => trial.after((engine) => engine.select("waiting", { x: [10 * 0.6, 35 * 0.6] }));
  trial.say("30 of 40 values ticked, asked for while nothing is ready", ms(tick(30)));
  trial.say("a brush moved after that, while nothing is ready", ms(move()));
  trial.letGo("waiting", "lots");
  trial.take("a box brush", "crowd", boxIndexer);
  trial.moved("a box brush over medians, distinct values, a group below it", "crowd", (part) => ({
    x: along(part),
    y: [at(Y, part / 2), at(Y, part / 2 + 0.4)],
  }));
  trial.letGo("crowd");
  trial.take("a brush over the same", "waiting", brushIndexer({ x: X }));
  trial.moved("a brush over the same", "waiting", (part) => ({ x: along(part) }));
  trial.take("a control of 40 values", "lots", textIndexer);
  trial.say("30 of 40 values ticked in one control", [30, 29, 12].map(tick).map(ms).join(", then "), "16 ms");
  trial.take("the brush again", "waiting", brushIndexer({ x: X }));
  trial.say("the first move of a brush after a control has changed", ms(move()), "16 ms");
  trial.letGo("waiting", "lots");
  const steps = [31, 32, 33, 34].map((bins) => trial.after((engine) => engine.setSetting("bins", bins)));
  trial.say("one step of a bins slider", steps.map(ms).join(", then "), "50 ms");
}
