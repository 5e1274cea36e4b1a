import type { WordPart } from "../chart/words";
import type { Asked } from "../link/engine";
import type { Model } from "../model/model";
import type { PlanPiece } from "../plan/plan";
import type { SheetValue } from "../sheet/edit/edit";
import type { Path } from "../sheet/tree";
import { type ColumnNames, type GroupTable, GroupWriter, type SaidOf } from "./group-writer";

/** A value of the sheet to write, or a key to take away. */
export interface SheetChange {
  path: Path;
  value?: SheetValue;
}

/** A piece drawn from tables of its groups: the tables, and what of the sheet is different then. */
export interface Regrouped {
  tables: GroupTable[];
  changes: SheetChange[];
}

/** What is known where a piece is drawn from its groups. */
export interface Regrouping {
  piece: PlanPiece;
  model: Model;
  saidOf: SaidOf;
  /** A name for the next table of the piece. */
  nameTable: () => string;
}

export const writerOf = ({ model, saidOf }: Regrouping, asked: Asked | undefined, names: ColumnNames): GroupWriter =>
  new GroupWriter(asked as Asked, model, names, saidOf);

/** The values in the words of a piece; nothing where there are none. */
export function livePart(regrouping: Regrouping, names: ColumnNames): GroupWriter | undefined {
  const { live } = regrouping.piece;
  if (!live || Object.keys(live.query.channels).length === 0) return undefined;
  return writerOf(regrouping, { query: live.query, options: {}, filters: [] }, names);
}

/** Another table under the same channels; what was kept of the old one is what is there. */
export const newSource = (path: Path, { name, keep }: Pick<GroupTable, "name" | "keep">): SheetChange[] => [
  { path: [...path, "keep"], ...(keep === undefined ? {} : { value: keep }) },
  { path: [...path, "from"], value: name },
];

/** A text as its author writes it, values in braces. */
export const writtenParts = (parts: readonly WordPart[], channel: (name: string) => string): string =>
  parts
    .map((part) => {
      if (typeof part === "string") return part;
      if ("channel" in part) return channel(part.channel);
      return "setting" in part ? `{$${part.setting}}` : `{${part.selection}.${part.column}}`;
    })
    .join("");
