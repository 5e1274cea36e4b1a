import type { Remote } from "comlink";
import type { ViewerKit } from "../../core/dashboard/parts";
import { faultWords } from "../../core/finding/fault-words";
import { type Compiler, type Progress, startCompiler } from "../worker/client";
import type { CompileWorker } from "../worker/compile-worker";
import type { BuildReply } from "../worker/reply";
import type { Files } from "./document";

/** A state of the document to be compiled. */
export interface Job {
  text: string;
  sheetName: string;
  files: Files;
}

interface Told {
  done: (reply: BuildReply, job: Job) => void;
  /** What is being done and how far it is; nothing when it is at rest. */
  working: (progress: Progress | undefined) => void;
  problem: (words: string | undefined) => void;
}

/** A worker that dies this often in a row is not started again by itself. */
const MOST_DEATHS = 3;

/**
 * Compiles the newest state of the document, one at a time; what was asked meanwhile waits, the last
 * of it. A worker that dies is started again and given everything it had.
 */
export class Builder {
  private compiler: Compiler | undefined;
  private starting: Promise<Compiler> | undefined;
  private given = new Set<string>();
  private wanted: Job | undefined;
  private running: Job | undefined;
  private deaths = 0;

  constructor(
    private readonly viewer: () => Promise<ViewerKit>,
    private readonly bytesOf: (hash: string) => Promise<Uint8Array | undefined>,
    private readonly told: Told,
  ) {}

  /** Starts the compiler before anything is asked of it; where that fails, the first compile says so. */
  warm() {
    this.start().catch(() => undefined);
  }

  /** The far side, started where it is not yet. */
  async ready(): Promise<Remote<CompileWorker>> {
    return (await this.started()).call;
  }

  private async started(): Promise<Compiler> {
    return this.starting ?? this.compiler ?? this.start();
  }

  /** Asks for a compile; an earlier one that has not begun is dropped. */
  ask(job: Job) {
    this.wanted = job;
    void this.run();
  }

  /** What was asked for another report is of no use any more. */
  forget() {
    this.wanted = undefined;
    this.running = undefined;
    void this.compiler?.call.forget();
  }

  /** The far side, once something has been compiled. */
  get call(): Remote<CompileWorker> | undefined {
    return this.compiler?.call;
  }

  private async run() {
    if (this.running) return;
    while (this.wanted) {
      const job = this.wanted;
      this.running = job;
      this.wanted = undefined;
      this.told.working({ what: "compiling", part: 0 });
      try {
        const reply = await this.compile(job);
        if (this.running !== job) return;
        this.deaths = 0;
        if (!this.wanted) this.told.done(reply, job);
      } catch (fault) {
        if (this.running !== job) return;
        this.told.problem(`The compiler stopped: ${faultWords(fault)}. The proof is the last one that was finished.`);
      }
    }
    this.running = undefined;
    this.told.working(undefined);
  }

  private async compile(job: Job): Promise<BuildReply> {
    const compiler = await this.started();
    for (const [, hash] of job.files) {
      if (this.given.has(hash)) continue;
      const bytes = await this.bytesOf(hash);
      if (!bytes) continue;
      await compiler.call.put(hash, bytes);
      this.given.add(hash);
    }
    return compiler.call.build(job.text, job.sheetName, [...job.files]);
  }

  /** One start at a time: a report that is opened while the first is starting waits for the same compiler. */
  private start(): Promise<Compiler> {
    if (this.starting) return this.starting;
    const starting = this.launch().finally(() => {
      if (this.starting === starting) this.starting = undefined;
    });
    this.starting = starting;
    return starting;
  }

  /** The worker loads its own script while the viewer is on its way. */
  private async launch(): Promise<Compiler> {
    const compiler = startCompiler(
      (progress) => this.told.working(progress),
      () => this.died(),
    );
    this.compiler = compiler;
    this.given = new Set();
    try {
      await compiler.call.open(await this.viewer());
    } catch (fault) {
      compiler.stop();
      if (this.compiler === compiler) this.compiler = undefined;
      throw fault;
    }
    return compiler;
  }

  private died() {
    const job = this.wanted ?? this.running;
    this.compiler = undefined;
    this.starting = undefined;
    this.running = undefined;
    this.deaths += 1;
    if (this.deaths > MOST_DEATHS) {
      this.told.working(undefined);
      this.told.problem(
        "The compiler has died several times in a row. Nothing of yours is lost; change the sheet, or load the page again.",
      );
      return;
    }
    this.told.problem("The compiler had died and was started again.");
    this.wanted = job;
    if (job) void this.run();
    else this.told.working(undefined);
  }

  /** Ends what is going on at once. The next change compiles again. */
  stop() {
    this.compiler?.stop();
    this.compiler = undefined;
    // A start that is cut off is never answered.
    this.starting = undefined;
    this.wanted = undefined;
    this.running = undefined;
    this.told.working(undefined);
    this.told.problem("Stopped. The proof is the last one that was finished; the next change compiles again.");
  }
}
