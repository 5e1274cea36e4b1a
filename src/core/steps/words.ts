import { evaluate, frameOf } from "../formula/evaluate";
import { columnsOf } from "../formula/tree";
import type { TextVector } from "../formula/vector";
import { type Column, textColumn } from "../table/column";
import type { StepKind } from "./step";

/** English words that say how other words hang together. */
const LINKING = new Set(
  (
    "a about above after again all also am an and any are as at be because been before being below between " +
    "both but by can could did do does doing down during each few for from further had has have having " +
    "he her here hers him his how i if in into is it its itself just me more most my no nor not now of off on " +
    "once only or other our out over own same she should so some such than that the their them then " +
    "there these they this those through to too under until up very was we were " +
    "what when where which while who whom why will with would you your"
  ).split(" "),
);

/** The words of a text: lower case, split wherever no letter stands; an apostrophe within a word belongs to it. */
export function wordsOf(text: string): string[] {
  return text.toLowerCase().match(/\p{L}[\p{L}\p{M}]*(?:['’]\p{L}+)*/gu) ?? [];
}

/** One row per word with how often it stands, the most frequent first. */
export const words: StepKind<"words"> = {
  run(step, table, { setting }) {
    const texts = evaluate(step.of, frameOf(table, setting)) as TextVector;
    const found = texts.dictionary.map((text) => wordsOf(text).filter((word) => !step.skip || !LINKING.has(word)));
    const numbers = new Map<string, number>();
    const counts: number[] = [];
    const from: number[] = [];
    const to: number[] = [];
    for (let row = 0; row < table.rowCount; row++) {
      for (const word of found[texts.codes[row * texts.step] as number] ?? []) {
        const number = numbers.get(word) ?? counts.push(0) - 1;
        numbers.set(word, number);
        counts[number] = (counts[number] as number) + 1;
        from.push(row);
        to.push(number);
      }
    }
    const names = [...numbers.keys()];
    const order = names
      .map((_, number) => number)
      .sort(
        (a, b) =>
          (counts[b] as number) - (counts[a] as number) || ((names[a] as string) < (names[b] as string) ? -1 : 1),
      );
    const place = new Int32Array(names.length);
    order.forEach((number, at) => {
      place[number] = at;
    });
    const columns = new Map<string, Column>([
      [
        "word",
        textColumn(
          order.map((number) => names[number] as string),
          names.length,
        ),
      ],
      ["count", { kind: "number", values: Float64Array.from(order, (number) => counts[number] as number) }],
    ]);
    return {
      table: { rowCount: names.length, columns, info: table.info },
      losses: [],
      origin: {
        type: "pairs",
        from: Int32Array.from(from),
        to: Int32Array.from(to, (number) => place[number] as number),
        count: names.length,
        keys: [columns.get("word") as Column],
      },
    };
  },
  formulas: ({ of }) => [of],
  needs: ({ of }) => columnsOf(of),
  gives: () => ["word", "count"],
  merges: true,
};
