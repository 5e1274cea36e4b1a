import { arithmeticKind, isMoment } from "./arithmetic-kinds";
import { numberOfName } from "./not-columns";
import { article, type Blame, join, loose, type Seen } from "./seen";
import type { Formula } from "./tree";
import { writeName } from "./words";

/** What is reckoned of two values; said where their kinds have nothing to do with one another. */
function arithmetic(blame: Blame, node: Formula & { type: "binary" }, left: Seen, right: Seen): Seen {
  const { operator } = node;
  const pair = [left, right];
  const isJoining = operator === "+" && (node.left.type === "text" || node.right.type === "text");
  if (!isJoining && namesForNumbers(blame, node)) return { ...join("number", pair), broken: true };
  if (loose(left) || loose(right)) {
    const known = loose(left) ? right : left;
    return join(loose(known) ? "number" : known.kind, pair);
  }
  const kind = arithmeticKind(operator, left.kind, right.kind);
  if (kind) return join(kind, pair);
  const isText = left.kind === "text" || right.kind === "text";
  const hint = operator === "+" && isText ? "; texts are joined with concat()" : "";
  blame(node, "wrong-kind", `${article(left.kind)} ${operator} ${article(right.kind)} has no meaning${hint}`);
  return { ...join("number", pair), broken: true };
}

/** Months and days of the week are names; where numbers were meant, which write them is said. */
function namesForNumbers(blame: Blame, { left, right }: Formula & { type: "binary" }): boolean {
  const sides = [left, right].map((side) => ({ side, number: numberOfName(side) }));
  for (const { side, number } of sides)
    if (number) blame(side, "wrong-kind", number.says, { title: `write ${number.text}`, text: number.text });
  return sides.some(({ number }) => number !== undefined);
}

/** Says where two values can be neither equal nor the larger one of the two: they are of kinds too different. */
export function comparable(blame: Blame, node: Formula, left: Seen, right: Seen) {
  if (loose(left) || loose(right) || left.kind === right.kind || (isMoment(left.kind) && isMoment(right.kind))) return;
  const isCounted = left.kind === "number" || right.kind === "number";
  if (isCounted && node.type === "binary" && namesForNumbers(blame, node)) return;
  const isText = (seen: Seen) => seen.kind === "text";
  const hint =
    isText(left) && isMoment(right.kind)
      ? ""
      : isText(right) && isMoment(left.kind)
        ? '; write a date as date("2024-03-01")'
        : "";
  blame(node, "wrong-kind", `${article(left.kind)} is compared with ${article(right.kind)}${hint}`);
}

/** Says where a condition is neither true nor false. */
export function truth(blame: Blame, part: Formula, seen: Seen) {
  if (!loose(seen) && seen.kind !== "boolean")
    blame(part, "wrong-kind", `true or false is expected here, not ${article(seen.kind)}`);
}

/** What a sign between two parts makes of them: a sum, a comparison, a condition. */
export function binary(blame: Blame, node: Formula & { type: "binary" }, left: Seen, right: Seen): Seen {
  if (node.operator === "and" || node.operator === "or") {
    truth(blame, node.left, left);
    truth(blame, node.right, right);
    return join("boolean", [left, right]);
  }
  if (!["=", "!=", "<", "<=", ">", ">="].includes(node.operator)) return arithmetic(blame, node, left, right);
  checkMissingComparison(blame, node);
  comparable(blame, node, left, right);
  return join("boolean", [left, right]);
}

function checkMissingComparison(blame: Blame, node: Formula & { type: "binary" }) {
  const other = node.right.type === "missing" ? node.left : node.left.type === "missing" ? node.right : undefined;
  if (!other) return;
  const name = other.type === "column" ? writeName(other.name) : undefined;
  const word = node.operator === "!=" ? "known" : "missing";
  blame(
    node,
    "equals-missing",
    `nothing equals missing; ask ${word}(${name ?? "…"})`,
    name ? { title: `write ${word}(${name})`, text: `${word}(${name})` } : undefined,
  );
}
