import type { ProjectRow } from "../store/database";
import type { Projects } from "../store/projects";

export type Keeping =
  | { type: "saved" }
  | { type: "saving" }
  /** The browser refused; work goes on in memory and can be taken away as a file. */
  | { type: "refused"; reason: string }
  /** Another tab writes this report; this one shows what it writes. */
  | { type: "following" };

interface Told {
  keeping: (state: Keeping) => void;
  /** The report as another tab has saved it. */
  changed: (row: ProjectRow) => void;
}

/**
 * Keeps one report at every change, the newest state at once behind the one that is being written.
 * One tab writes a report; others follow it, and the next takes over when the writer is closed.
 */
export class Keeper {
  private wanted: ProjectRow | undefined;
  private running = false;
  private revision = 0;
  private letGo: (() => void) | undefined;
  private unfollow: (() => void) | undefined;
  private over = false;

  constructor(
    private readonly projects: Projects,
    private readonly told: Told,
  ) {}

  /** Takes a report in hand: as its writer if no other tab is, else as a follower. */
  async take(row: ProjectRow): Promise<void> {
    this.revision = row.revision;
    if (!navigator.locks) return;
    const lock = `still-harbor report ${row.id}`;
    await new Promise<void>((settled) => {
      void navigator.locks.request(lock, { ifAvailable: true }, (held) => {
        settled();
        if (!held) {
          this.follow(row.id);
          void navigator.locks.request(lock, () => {
            if (this.over) return undefined;
            return this.takeOver(row.id);
          });
          return undefined;
        }
        return this.hold();
      });
    });
  }

  private hold(): Promise<void> {
    return new Promise((free) => {
      this.letGo = free;
    });
  }

  private follow(id: string) {
    this.told.keeping({ type: "following" });
    this.unfollow = this.projects.follow(id, (row) => {
      this.revision = row.revision;
      this.told.changed(row);
    });
  }

  private async takeOver(id: string): Promise<void> {
    this.unfollow?.();
    this.unfollow = undefined;
    const row = await this.projects.load(id);
    if (row) {
      this.revision = row.revision;
      this.told.changed(row);
    }
    this.told.keeping({ type: "saved" });
    await this.hold();
  }

  get follows(): boolean {
    return this.unfollow !== undefined;
  }

  /** Keeps a state. States that come while one is being written replace each other. */
  keep(row: ProjectRow) {
    if (this.follows || this.over) return;
    this.wanted = row;
    if (!this.running) void this.run();
  }

  private async run() {
    this.running = true;
    this.told.keeping({ type: "saving" });
    let result: Keeping = { type: "saved" };
    while (this.wanted) {
      const row = { ...this.wanted, revision: this.revision };
      this.wanted = undefined;
      const saved = await this.projects.save(row);
      if (saved.type === "saved") {
        this.revision = saved.revision;
        result = { type: "saved" };
      } else if (saved.type === "refused") result = { type: "refused", reason: saved.reason };
      else {
        // Without locks (plain http) another tab shows itself only here; its text stands, ours can be copied.
        this.follow(row.id);
        result = { type: "following" };
        this.wanted = undefined;
      }
    }
    this.running = false;
    if (this.over) this.letGo?.();
    else this.told.keeping(result);
  }

  /** Lets the report go, for another one or another tab, once its last change is written. */
  release() {
    this.over = true;
    this.unfollow?.();
    if (!this.running) this.letGo?.();
  }
}
