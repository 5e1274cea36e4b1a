import type { Formula } from "./tree";
import { mapFormula } from "./tree";

/**
 * Random numbers that are the same in every build: each follows from the table's seed, from which
 * call of the table it is, and from its row, by mixing these three and nothing else.
 */

/** Mixes bits so that neighbours have nothing in common (the 32-bit finalizer of Appleby's MurmurHash3). */
function mixed(bits: number): number {
  let hash = bits | 0;
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b);
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35);
  return (hash ^ (hash >>> 16)) >>> 0;
}

/** A number above 0 and below 1, with 52 bits of chance. */
export function chance(seed: number, stream: number, row: number): number {
  const first = mixed(mixed(mixed(seed) + stream) + row);
  const second = mixed(first + 0x9e3779b9);
  return ((first >>> 6) * 2 ** 26 + (second >>> 6) + 0.5) / 2 ** 52;
}

export const DRAWS: ReadonlySet<string> = new Set(["uniform", "normal", "exponential"]);

/** The formula with seed and number of its call written behind the arguments of every draw. */
export function seedDraws(formula: Formula, seed: Formula, nextStream: () => number): Formula {
  return mapFormula(formula, (node) => {
    if (node.type !== "call" || !DRAWS.has(node.name)) return undefined;
    const inner = node.arguments.map((argument) => seedDraws(argument, seed, nextStream));
    return { ...node, arguments: [...inner, seed, { type: "number", value: nextStream() }] };
  });
}
