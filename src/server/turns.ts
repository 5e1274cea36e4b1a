/** Lets so many run at once and so many wait; who comes beyond that is sent away. */
export class Turns {
  private running = 0;
  private readonly line: (() => void)[] = [];

  constructor(
    private readonly atOnce: number,
    private readonly waiting: number,
  ) {}

  get load(): { running: number; waiting: number } {
    return { running: this.running, waiting: this.line.length };
  }

  /** Waits for a turn and takes it. Answers false at once if the line is full. */
  async take(): Promise<boolean> {
    if (this.running < this.atOnce) {
      this.running += 1;
      return true;
    }
    if (this.line.length >= this.waiting) return false;
    await new Promise<void>((turn) => this.line.push(turn));
    return true;
  }

  /** Gives the turn to the next in line. */
  give() {
    const next = this.line.shift();
    if (next) next();
    else this.running -= 1;
  }
}
