/** Times in milliseconds, and how they are summed up. */
export function timed<T>(work: () => T): [T, number] {
  const started = performance.now();
  const result = work();
  return [result, performance.now() - started];
}

/** The value below which 95 of 100 lie. */
export function p95(times: readonly number[]): number {
  const sorted = [...times].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * 0.95))] ?? Number.NaN;
}

export const median = (times: readonly number[]): number =>
  [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)] ?? Number.NaN;

const lines: [string, string, string][] = [];

/** One measured figure with its goal; printed at once, kept for the table at the end. */
export function say(what: string, figure: string, goal = "") {
  lines.push([what, figure, goal]);
  console.log(`${what}: ${figure}${goal ? ` (goal ${goal})` : ""}`);
}

export const ms = (value: number) => `${value < 10 ? value.toFixed(2) : Math.round(value)} ms`;
export const times = (value: number) => `${value.toFixed(2)}x`;

export function table(): string {
  return ["| what | measured | goal |", "|---|---|---|", ...lines.map((line) => `| ${line.join(" | ")} |`)].join("\n");
}
