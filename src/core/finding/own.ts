/**
 * What a map has of its own under a name. Names come from tables, sheets and addresses, and any of
 * them may be one that every object inherits something under (`constructor`).
 */
export function ownOf<T>(map: Readonly<Record<string, T>>, name: string): T | undefined {
  return Object.hasOwn(map, name) ? map[name] : undefined;
}
