import type { Node } from "yaml";
import type { Span } from "../finding/finding";

export function spanOf(node: Node | null | undefined): Span | undefined {
  const range = node?.range;
  return range ? { start: range[0], end: Math.max(range[0], range[1]) } : undefined;
}
