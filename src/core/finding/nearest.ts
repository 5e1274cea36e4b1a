/**
 * Edit distance in which swapping two neighbours counts as one slip
 * (optimal string alignment; F. Damerau, "A technique for computer detection and
 * correction of spelling errors", CACM 7(3), 1964).
 */
export function slips(a: string, b: string): number {
  let before: number[] = [];
  let previous = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const current = [i];
    for (let j = 1; j <= b.length; j++) {
      const cost = a[i - 1] === b[j - 1] ? 0 : 1;
      let best = Math.min(
        (previous[j] as number) + 1,
        (current[j - 1] as number) + 1,
        (previous[j - 1] as number) + cost,
      );
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) {
        best = Math.min(best, (before[j - 2] as number) + 1);
      }
      current.push(best);
    }
    before = previous;
    previous = current;
  }
  return previous[b.length] as number;
}

/** The known name that a misspelt one most likely meant, if any is near enough. */
export function nearest(name: string, known: Iterable<string>): string | undefined {
  const wanted = name.slice(0, 60).toLowerCase();
  const limit = Math.max(1, Math.round(wanted.length * 0.4));
  let best: string | undefined;
  let bestSlips = limit + 1;
  for (const candidate of known) {
    if (Math.abs(candidate.length - wanted.length) > limit && !candidate.toLowerCase().startsWith(wanted)) continue;
    const lower = candidate.toLowerCase();
    const count = wanted.length >= 3 && lower.startsWith(wanted) ? 1 : slips(wanted, lower);
    if (count < bestSlips) {
      best = candidate;
      bestSlips = count;
    }
  }
  return best;
}

/** A list of names for a message: the first few, then how many more. */
export function listed(names: Iterable<string>, most = 12): string {
  const all = [...names];
  const shown = all.slice(0, most).join(", ");
  return all.length > most ? `${shown} and ${all.length - most} more` : shown;
}
