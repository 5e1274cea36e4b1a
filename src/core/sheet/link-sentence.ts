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

/** A sentence that cannot be read; it ends the reading wherever that stands. */
class Unread extends Error {
  constructor(readonly problem: SentenceProblem) {
    super(problem.message);
  }
}

function fail(code: string, message: string, { start, end }: Word, replacement?: string): never {
  throw new Unread({ code, message, start, end, ...(replacement ? { replacement } : {}) });
}

/** Reads the sentence of a link. */
export function parseLink(text: string): { sentence?: LinkSentence; problem?: SentenceProblem } {
  try {
    return { sentence: new LinkReader(text).sentence() };
  } catch (thrown) {
    if (thrown instanceof Unread) return { problem: thrown.problem };
    throw thrown;
  }
}

/** Reads a sentence word by word, from the gesture to the last target. */
class LinkReader {
  private readonly words: readonly Word[];
  private readonly end: Word;
  private at = 0;

  constructor(text: string) {
    this.words = wordsOf(text);
    this.end = { name: "", start: text.length, end: text.length };
  }

  private get next(): Word {
    return this.words[this.at] ?? this.end;
  }

  private take(): Word {
    const word = this.next;
    this.at += 1;
    return word;
  }

  /** Takes the next word if it is this one. */
  private takes(name: string): boolean {
    const is = this.next.name === name;
    if (is) this.at += 1;
    return is;
  }

  sentence(): LinkSentence {
    if (this.words.length === 0) fail("empty-link", "a link says GESTURE on SOURCE -> EFFECT TARGETS", this.end);
    if (this.takes("cross-filter")) return this.crossFilter();
    const gesture = this.gesture();
    if (!this.takes("on")) fail("bad-link", `after ${gesture} comes "on" and the name of a chart`, this.next);
    const source = this.take();
    if (source === this.end || source.name === "->") fail("bad-link", "the name of the chart is missing", source);
    const by = this.takes("by") ? this.columns() : [];
    const as = this.takes("as") ? this.take() : undefined;
    if (!this.takes("->")) fail("bad-link", 'an arrow "->" is expected before the effect', this.next);
    return { type: "gesture", gesture, source, by, ...(as ? { as } : {}), effects: this.effects() };
  }

  private crossFilter(): LinkSentence {
    const table = this.take();
    if (table === this.end) fail("bad-link", "after cross-filter comes the name of a table", this.end);
    if (this.next !== this.end) fail("bad-link", "nothing may follow cross-filter TABLE", this.next);
    return { type: "cross-filter", table };
  }

  /** A gesture of one word or of two. */
  private gesture(): GestureName {
    const [head, second] = [this.next, this.words[this.at + 1]];
    const two = `${head.name} ${second?.name ?? ""}`;
    const gesture = GESTURES.find((known) => known === two) ?? GESTURES.find((known) => known === head.name);
    if (gesture) {
      this.at += gesture.includes(" ") ? 2 : 1;
      return gesture;
    }
    const isBrush = head.name === "brush";
    const end = isBrush && second && second.name !== "on" ? second.end : head.end;
    const word: Word = isBrush ? { name: two, start: head.start, end } : head;
    return fail(
      "unknown-gesture",
      `"${word.name.trim()}" is no gesture; gestures are ${GESTURES.join(", ")} and cross-filter`,
      word,
      nearest(isBrush ? two : head.name, [...GESTURES, "cross-filter"]),
    );
  }

  private columns(): PlacedName[] {
    const by = [this.take()];
    while (this.takes(",")) by.push(this.take());
    return by;
  }

  private effects(): LinkEffect[] {
    const effects: LinkEffect[] = [];
    while (this.next !== this.end) {
      effects.push(this.clause());
      if (this.next !== this.end && this.words[this.at - 1]?.name !== ",") this.failWithoutComma(this.next);
    }
    if (effects.length === 0) fail("bad-link", "an effect is expected after the arrow, such as filter all", this.end);
    return effects;
  }

  /** Parts of a link are parted by commas, where many write a word. */
  private failWithoutComma(word: Word): never {
    if (word.name === "by" || word.name === "as")
      fail(
        "bad-link",
        `"${word.name}" stands before the arrow, with what is picked, ` +
          `such as click on bars ${word.name} name -> filter all`,
        word,
      );
    if (/^[\d.]+%?$/.test(word.name))
      fail("bad-link", `how faint stands before what is faded, as in fade 0.2 bars; "${word.name}" is no chart`, word);
    const isAnd = /^(?:and|&|\+|;)$/.test(word.name);
    return fail("bad-link", `a comma is expected before "${word.name}"`, word, isAnd ? "," : undefined);
  }

  /** An effect and its targets, up to the comma before another effect. */
  private clause(): LinkEffect {
    const word = this.take();
    const effect = EFFECTS.find((known) => known === word.name);
    if (!effect)
      return fail(
        "unknown-effect",
        `"${word.name}" is no effect; effects are ${EFFECTS.join(", ")}`,
        word,
        // A name alone after the arrow: most often its rows are meant to be filtered.
        nearest(word.name, EFFECTS) ??
          (this.next === this.end || this.next.name === "," ? `filter ${word.name}` : undefined),
      );
    const clause: LinkEffect = { effect, targets: [] };
    if (effect === "fade" && /^(?:0?\.\d+|0|1)$/.test(this.next.name)) clause.amount = Number(this.take().name);
    else if (effect === "fade" && /^[\d.]+%?$/.test(this.next.name))
      fail("bad-link", `how faint is a part from 0 to 1, as in fade 0.3 bars, not ${this.next.name}`, this.next);
    do {
      const target = this.take();
      if (target === this.end || target.name === "," || target.name === "->")
        fail("bad-link", `the name of a chart is expected after ${effect}`, target);
      clause.targets.push(target);
    } while (this.takes(",") && !EFFECTS.includes(this.next.name as EffectName));
    return clause;
  }
}
