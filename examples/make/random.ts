/** A seeded stream of numbers: the same seed gives the same report on every machine (G. Marsaglia, "Xorshift RNGs", J. Stat. Software 8(14), 2003). */
export class Random {
  private state: number;

  constructor(seed: number) {
    // Zero would stay zero for ever; a few turns spread small seeds over all bits.
    this.state = (seed ^ 0x9e3779b9) | 1;
    for (let turn = 0; turn < 16; turn++) this.next();
  }

  /** At least 0, below 1. */
  next(): number {
    this.state ^= this.state << 13;
    this.state ^= this.state >>> 17;
    this.state ^= this.state << 5;
    return (this.state >>> 0) / 4294967296;
  }

  between(low: number, high: number): number {
    return low + (high - low) * this.next();
  }

  whole(low: number, high: number): number {
    return Math.floor(this.between(low, high + 1));
  }

  /** Around 0 with deviation 1, by the sum of twelve draws. */
  normal(): number {
    let sum = -6;
    for (let i = 0; i < 12; i++) sum += this.next();
    return sum;
  }

  pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.next() * list.length)] as T;
  }

  /** One of several by weight. */
  weighted<T>(list: readonly (readonly [T, number])[]): T {
    const total = list.reduce((sum, [, weight]) => sum + weight, 0);
    let at = this.next() * total;
    for (const [item, weight] of list) {
      at -= weight;
      if (at < 0) return item;
    }
    return (list.at(-1) as readonly [T, number])[0];
  }
}
