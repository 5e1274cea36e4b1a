/**
 * Small things that a browser remembers for the next visit: the ground, the report opened last.
 * Where it is set to keep nothing, asking throws; nothing then is remembered, and nothing else is lost.
 */
export function recall(key: string): string | null {
  try {
    return localStorage.getItem(`still-harbor ${key}`);
  } catch {
    return null;
  }
}

export function forget(key: string): void {
  try {
    localStorage.removeItem(`still-harbor ${key}`);
  } catch {
    // Nothing was kept.
  }
}

export function remember(key: string, value: string): void {
  try {
    localStorage.setItem(`still-harbor ${key}`, value);
  } catch {
    // Said above: a browser that keeps nothing is its owner's wish.
  }
}
