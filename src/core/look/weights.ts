import type { PackingLine } from "../dashboard/contents";

/** What a piece or control weighs in a file, in bytes. */
export interface PieceWeight {
  name: string;
  /** All columns that it needs. */
  bytes: number;
  /** Those that nothing else needs: so much lighter the file is without it. */
  alone: number;
}

/** What each piece and control of a file weighs by the columns that it needs, the heaviest first. */
export function weightsByPiece(packing: readonly PackingLine[], names: ReadonlySet<string>): PieceWeight[] {
  const found = new Map<string, PieceWeight>();
  for (const { bytes, neededBy } of packing)
    for (const name of neededBy) {
      if (!names.has(name)) continue;
      const own = found.get(name) ?? { name, bytes: 0, alone: 0 };
      found.set(name, own);
      own.bytes += bytes;
      if (neededBy.length === 1) own.alone += bytes;
    }
  return [...found.values()].sort((a, b) => b.bytes - a.bytes || (a.name < b.name ? -1 : 1));
}
