import { nearest } from "../finding/nearest";
import { EFFECTS, type EffectName } from "../link/effects/index";
import { GESTURES, type GestureName } from "../link/gestures/index";

/** Words that cannot name a piece, because they begin something in a link. */
export const RESERVED_PIECES: ReadonlySet<string> = new Set([...EFFECTS, "all"]);

/** A word of the sentence and where it stands in it. */
export interface PlacedName {
  name: string;
  start: number;
  end: number;
}

export interface LinkEffect {
  effect: EffectName;
  /** How faint `fade` is, 0 to 1. */
  amount?: number;
  targets: PlacedName[];
}

export type LinkSentence =
  | {
      type: "gesture";
      gesture: GestureName;
      source: PlacedName;
      by: PlacedName[];
      as?: PlacedName;
      effects: LinkEffect[];
    }
  | { type: "cross-filter"; table: PlacedName };

export interface SentenceProblem {
  code: string;
  message: string;
  start: number;
  end: number;
  replacement?: string;
}

interface Word extends PlacedName {}

function wordsOf(text: string): Word[] {
  const words: Word[] = [];
  for (const match of text.matchAll(/->|,|[^\s,]+?(?=->|[\s,]|$)/g))
    words.push({ name: match[0], start: match.index, end: match.index + match[0].length });
  return words;
}

/** Reads the sentence of a link. */
export function parseLink(text: string): { sentence?: LinkSentence; problem?: SentenceProblem } {
  const words = wordsOf(text);
  let at = 0;
  const end: Word = { name: "", start: text.length, end: text.length };
  const next = () => words[at] ?? end;
  const fail = (code: string, message: string, word: Word, replacement?: string) => ({
    problem: { code, message, start: word.start, end: word.end, ...(replacement ? { replacement } : {}) },
  });
  if (words.length === 0) return fail("empty-link", "a link says GESTURE on SOURCE -> EFFECT TARGETS", end);
  if (next().name === "cross-filter") {
    at += 1;
    const table = next();
    if (table === end) return fail("bad-link", "after cross-filter comes the name of a table", end);
    if (words.length > 2) return fail("bad-link", "nothing may follow cross-filter TABLE", words[2] as Word);
    return { sentence: { type: "cross-filter", table } };
  }
  const head = next();
  const two = `${head.name} ${words[1]?.name ?? ""}`;
  const gesture = GESTURES.find((known) => known === two) ?? GESTURES.find((known) => known === head.name);
  if (!gesture) {
    const near = nearest(head.name === "brush" ? two : head.name, [...GESTURES, "cross-filter"]);
    const span: Word =
      head.name === "brush"
        ? { name: two, start: head.start, end: words[1]?.name !== "on" ? (words[1]?.end ?? head.end) : head.end }
        : head;
    return fail(
      "unknown-gesture",
      `"${span.name.trim()}" is no gesture; gestures are ${GESTURES.join(", ")} and cross-filter`,
      span,
      near,
    );
  }
  at = gesture.includes(" ") ? 2 : 1;
  if (next().name !== "on") return fail("bad-link", `after ${gesture} comes "on" and the name of a chart`, next());
  at += 1;
  const source = next();
  if (source === end || source.name === "->") return fail("bad-link", "the name of the chart is missing", source);
  at += 1;
  const by: PlacedName[] = [];
  if (next().name === "by") {
    at += 1;
    for (;;) {
      by.push(next());
      at += 1;
      if (next().name !== ",") break;
      at += 1;
    }
  }
  let as: PlacedName | undefined;
  if (next().name === "as") {
    at += 1;
    as = next();
    at += 1;
  }
  if (next().name !== "->") return fail("bad-link", 'an arrow "->" is expected before the effect', next());
  at += 1;
  const effects: LinkEffect[] = [];
  while (at < words.length) {
    const word = next();
    const effect = EFFECTS.find((known) => known === word.name);
    if (!effect) {
      return fail(
        "unknown-effect",
        `"${word.name}" is no effect; effects are ${EFFECTS.join(", ")}`,
        word,
        nearest(word.name, EFFECTS),
      );
    }
    at += 1;
    const clause: LinkEffect = { effect, targets: [] };
    if (effect === "fade" && /^(?:0?\.\d+|0|1)$/.test(next().name)) {
      clause.amount = Number(next().name);
      at += 1;
    }
    for (;;) {
      const target = next();
      if (target === end || target.name === "," || target.name === "->")
        return fail("bad-link", `the name of a chart is expected after ${effect}`, target);
      clause.targets.push(target);
      at += 1;
      if (next().name !== ",") break;
      at += 1;
      if (EFFECTS.includes(next().name as EffectName)) break;
    }
    effects.push(clause);
    if (at < words.length && words[at - 1]?.name !== ",")
      return fail("bad-link", `a comma is expected before "${next().name}"`, next());
  }
  if (effects.length === 0) return fail("bad-link", "an effect is expected after the arrow, such as filter all", end);
  return { sentence: { type: "gesture", gesture, source, by, ...(as ? { as } : {}), effects } };
}
