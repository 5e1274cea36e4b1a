/** Lets so many run at once and so many wait; who comes beyond that is sent away. */
export class Turns {
  private running = 0;
  private readonly line: ((taken: boolean) => void)[] = [];

  constructor(
    private readonly atOnce: number,
    private readonly waiting: number,
  ) {}

  get load(): { running: number; waiting: number } {
    return { running: this.running, waiting: this.line.length };
  }

  /** Waits for a turn and takes it. Answers false at once if the line is full, and to who leaves it. */
  async take(signal?: AbortSignal): Promise<boolean> {
    if (signal?.aborted) return false;
    if (this.running < this.atOnce) {
      this.running += 1;
      return true;
    }
    if (this.line.length >= this.waiting) return false;
    return new Promise<boolean>((settle) => {
      const leave = () => {
        this.line.splice(this.line.indexOf(turn), 1);
        settle(false);
      };
      const turn = (taken: boolean) => {
        signal?.removeEventListener("abort", leave);
        settle(taken);
      };
      signal?.addEventListener("abort", leave, { once: true });
      this.line.push(turn);
    });
  }

  /** Gives the turn to the next in line. */
  give() {
    const next = this.line.shift();
    if (next) next(true);
    else this.running -= 1;
  }
}
