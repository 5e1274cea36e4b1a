import { LIMITS as AT_MOST, BOUNDS, type BoundName, boundMessage, counted } from "../core/finding/limits";
import { MEMORY } from "../memory/limit";
import { LIMITS } from "./limits";

const cell = (text: string) => text.replaceAll("*", "\\*");
const row = (...cells: string[]) => `| ${cells.join(" | ")} |`;
const megabytes = (bytes: number) => `${bytes / 1e6} MB`;
const memory = ({ most, share }: { most: number; share: number }) =>
  `${share * 100} % of the machine's memory, ${most / 1e9} GB at most`;

/** Every bound as a page of Markdown: docs/limits.md is this text. */
export function limitsReference(): string {
  const bounds = (Object.entries(BOUNDS) as [BoundName, (typeof BOUNDS)[BoundName]][]).map(([name, { of, at }]) =>
    row(counted(AT_MOST[name]), cell(of), cell(at), cell(boundMessage(name, AT_MOST[name] + 1, "…"))),
  );
  const ends = [
    row("the terminal", memory(MEMORY.terminal), "`error too-much-memory`, exit 1, nothing written"),
    row("the server", memory(MEMORY.server), "status 507, `too-much-memory`"),
    row("the server", `${LIMITS.seconds} seconds`, "status 504, `too-slow`"),
    row(
      "the server",
      `${megabytes(LIMITS.bytes)} a request, ${LIMITS.files} files, a sheet of ${megabytes(LIMITS.sheetBytes)}`,
      "status 413",
    ),
    row("the server", `${LIMITS.atOnce} builds at once and ${LIMITS.waiting} in line`, "status 503, `busy`"),
  ];
  return `# Limits

What real tables and sheets hold stays far below these bounds. They are there so that a small text cannot take all of a machine: whatever meets one is refused with a finding, nothing is cut.

| at most | of what | where | what is said, for one more |
|---|---|---|---|
${bounds.join("\n")}

A build is ended when it takes more than it may:

| where | at most | what is said |
|---|---|---|
${ends.join("\n")}

\`STILL_MEMORY\` sets the memory of a build in megabytes, for the terminal and the server alike.
`;
}
