import { readdirSync } from "node:fs";

/** Kinds of the files of an example. */
export const kindsIn = (folder: string): string =>
  [...new Set(readdirSync(`examples/${folder}`).map((name) => name.split(".").at(-1)))].sort().join(" ");

/**
 * Of a long list that is compared one by one: the first of each kind, and every fourth. `./still bench` compares all of
 * it, as it does with free seeds.
 */
export function sampled<T>(all: readonly T[], kindOf: (one: T) => string): T[] {
  if (process.env.FREE_SEEDS === "1") return [...all];
  const kinds = all.map(kindOf);
  return all.filter((_, at) => at % 4 === 0 || kinds.indexOf(kinds[at] as string) === at);
}
