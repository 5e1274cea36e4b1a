import { readTree, type Tree } from "../tree";

type MapTree = { [key: string]: Tree };
const isMap = (tree: Tree | undefined): tree is MapTree =>
  typeof tree === "object" && tree !== null && !Array.isArray(tree);
const same = (a: Tree | undefined, b: Tree | undefined) => JSON.stringify(a) === JSON.stringify(b);

const NAMED: Record<string, string> = { tables: "table", controls: "control", charts: "chart" };

/** What changed between two states of a sheet, in words, piece by piece; empty if nothing did. */
export function changesBetween(before: string, after: string): string[] {
  if (before === after) return [];
  const [old, now] = [readTree(before), readTree(after)];
  if (!isMap(old.tree) || !isMap(now.tree)) return ["the text was rewritten"];
  const changes: string[] = [];
  for (const key of new Set([...Object.keys(old.tree), ...Object.keys(now.tree)])) {
    const [from, to] = [old.tree[key], now.tree[key]];
    if (same(from, to)) continue;
    const noun = NAMED[key];
    if (noun && (isMap(from) || isMap(to))) changes.push(...named(noun, isMap(from) ? from : {}, isMap(to) ? to : {}));
    else if (from === undefined) changes.push(`${key} added`);
    else if (to === undefined) changes.push(`${key} taken away`);
    else changes.push(`${key} changed`);
  }
  return changes.length ? changes : ["spacing or comments"];
}

function named(noun: string, from: MapTree, to: MapTree): string[] {
  return [...new Set([...Object.keys(from), ...Object.keys(to)])].flatMap((name) => {
    if (same(from[name], to[name])) return [];
    if (!Object.hasOwn(from, name)) return [`${noun} ${name} added`];
    if (!Object.hasOwn(to, name)) return [`${noun} ${name} taken away`];
    const [old, now] = [from[name], to[name]];
    if (!isMap(old) || !isMap(now)) return [`${noun} ${name} changed`];
    const keys = [...new Set([...Object.keys(old), ...Object.keys(now)])].filter((key) => !same(old[key], now[key]));
    return [`${noun} ${name}: ${keys.slice(0, 4).join(", ")}${keys.length > 4 ? " and more" : ""}`];
  });
}
