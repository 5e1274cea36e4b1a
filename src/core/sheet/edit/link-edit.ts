import { isMap, isScalar, isSeq, type Node } from "yaml";
import type { TextEdit } from "../../finding/finding";
import type { EffectName } from "../../link/effects/index";
import { type LinkEffect, parseLink } from "../link-sentence";
import { documentOf, nodeAt, removeValue, setValue, startOf, valueEnd } from "./edit";

/** A source and its gesture, as far as writing its sentences needs to know them. */
export interface LinkSource {
  /** Places in `links:` of the sentences that make its selection. */
  sentences: readonly number[];
  /** What a sentence of its own begins with, such as `click on by_berth`. */
  head: string;
  /** Which pieces `all` means for an effect. */
  all: (effect: EffectName) => readonly string[];
}

interface Clause {
  effect: EffectName;
  amount?: number;
  targets: string[];
}

/** Clauses with `all` written out, so that single targets can leave them. */
const spelledOut = (effects: readonly LinkEffect[], { all }: LinkSource): Clause[] =>
  effects.map(({ effect, amount, targets }) => ({
    effect,
    ...(amount === undefined ? {} : { amount }),
    targets: [...new Set(targets.flatMap(({ name }) => (name === "all" ? all(effect) : [name])))],
  }));

function writeClause({ effect, amount, targets }: Clause, { all }: LinkSource): string {
  const every = all(effect);
  const isAll = every.length > 1 && every.every((name) => targets.includes(name));
  const rest = isAll ? targets.filter((name) => !every.includes(name)) : targets;
  const names = isAll ? ["all", ...rest] : rest;
  return `${effect}${amount === undefined ? "" : ` ${amount}`} ${names.join(", ")}`;
}

/**
 * Lets a source do something to a target, or nothing where no effect is given. Only sentences that say
 * something else than before are written anew, from their arrow on; one that is left with no target goes,
 * and a source without a sentence of its own gets one. Answers `undefined` where `links:` is no list.
 */
export function setLinkEffect(
  text: string,
  source: LinkSource,
  target: string,
  wanted: EffectName | undefined,
): TextEdit[] | undefined {
  const root = documentOf(text).contents as Node | null;
  const edits: TextEdit[] = [];
  let open = wanted;
  for (const place of source.sentences) {
    const node = nodeAt(root, ["links", place]);
    const path = isMap(node) ? ["links", place, "link"] : ["links", place];
    const own = nodeAt(root, path);
    const written = isScalar(own) ? String(own.value) : "";
    const { sentence } = parseLink(written);
    if (sentence?.type !== "gesture") continue;
    const before = spelledOut(sentence.effects, source);
    const after = before
      .map((clause) => ({ ...clause, targets: clause.targets.filter((name) => name !== target) }))
      .filter(({ targets }) => targets.length > 0);
    if (open) {
      const same = before.findIndex(({ effect, targets }) => effect === open && targets.includes(target));
      const beside = after.find(({ effect, amount }) => effect === open && amount === before[same]?.amount);
      if (beside) beside.targets.push(target);
      else after.push({ effect: open, targets: [target] });
      open = undefined;
    }
    const next = after.map((clause) => writeClause(clause, source)).join(", ");
    const head = written.slice(0, written.indexOf("->") + 2);
    if (after.length === 0) edits.push(...(removeValue(text, ["links", place]) ?? []));
    else if (`${head} ${next}` !== written) edits.push(...(setValue(text, path, `${head} ${next}`) ?? []));
  }
  if (!open) return edits;
  return addLink(text, `${source.head} -> ${open} ${target}`);
}

/** A sentence more, behind the others; `links:` is begun where there is none. */
export function addLink(text: string, sentence: string): TextEdit[] | undefined {
  const links = nodeAt(documentOf(text).contents as Node | null, ["links"]);
  if (isSeq(links)) return setValue(text, ["links", links.items.length], sentence);
  if (isScalar(links) && links.source === "")
    return [{ start: startOf(links), end: valueEnd(links), text: `\n  - ${sentence}` }];
  if (links) return undefined;
  const lines = `${text.endsWith("\n") ? "" : "\n"}\nlinks:\n  - ${sentence}\n`;
  return [{ start: text.length, end: text.length, text: lines }];
}
