import type { PartName } from "../../core/chart/part-names";
import type { ProofColumns, ProofUpdate } from "../../viewer/proof/exchange";
import type { ProofTracks } from "../../viewer/proof/listen";
import type { RowsLeft } from "../../viewer/proof/rows-left";

/** What a dashboard in the proof says to the page around it. */
export interface ProofMessage {
  stillHarbor?: string;
  hash?: string;
  piece?: string;
  places?: Record<string, number>;
  key?: string;
  ctrlKey?: boolean;
  altKey?: boolean;
  shiftKey?: boolean;
  tracks?: ProofTracks;
  left?: RowsLeft;
  part?: PartName;
  stamps?: number[];
  problem?: string;
  digest?: string;
  held?: boolean;
}

const TITLE = "The dashboard as it stands";
const STYLE = "position:absolute;inset:0;width:100%;height:100%;border:0;";

/** Milliseconds without a change or a gesture after which the file itself takes the place of the proof. */
const REST = 2000;

interface Told {
  /** A message from the proof in sight. */
  said: (message: ProofMessage) => void;
  /** A new proof answers: it is asked to look like the one before, then comes into sight. */
  answers: (send: (message: object) => void) => void;
  state: () => string;
  /** The whole file of what was compiled last, as a proof has it. */
  file: () => Promise<string | undefined>;
  columns: (stamps: number[]) => Promise<ProofColumns | undefined>;
  /** Something is not as it must be. */
  problem: (words: string) => void;
}

/**
 * The frames of the proof. The one in sight takes over every change without loading a document. When
 * the author rests, the file itself is opened in a frame that waits, and takes the place of the one in
 * sight as soon as it answers: at rest, what is seen is the file. Should the two not show the same, it
 * is said, for that is a fault of ours.
 */
export class ProofFrames {
  private shown: HTMLIFrameElement | undefined;
  private waiting: HTMLIFrameElement | undefined;
  private filling: HTMLIFrameElement | undefined;
  /** Frames whose shell is ready to be filled. */
  private readonly ready = new WeakSet<HTMLIFrameElement>();
  private html: string | undefined;
  private sent = "";
  /** The state of the report that was asked for last. */
  private latest: ProofUpdate | undefined;
  private resting: ReturnType<typeof setTimeout> | undefined;
  /** Counts what is let go of: a file that was asked for before is not opened any more. */
  private asked = 0;
  /** A pointer or a key is held down in the proof in sight. */
  private held = false;
  /** What both frames show, as each has said it, while they are compared. */
  private digests: { shown?: string; filling?: string } = {};
  /** How far the proof in sight is scrolled, to be taken over by the next. */
  private places: Record<string, number> = {};

  constructor(
    private readonly host: HTMLElement,
    private readonly told: Told,
  ) {
    window.addEventListener("message", this.listen);
    this.waiting = this.make();
  }

  private make(): HTMLIFrameElement {
    const frame = document.createElement("iframe");
    frame.setAttribute("sandbox", "allow-scripts allow-downloads allow-modals");
    // A frame that is not in sight is nobody's business.
    frame.setAttribute("aria-hidden", "true");
    frame.tabIndex = -1;
    frame.style.cssText = `${STYLE}visibility:hidden`;
    frame.src = "/proof";
    this.host.append(frame);
    return frame;
  }

  /** Shows a state of the report; one that is asked for later takes its place. */
  show(update: ProofUpdate) {
    this.latest = update;
    if (this.shown) {
      this.shown.dataset.shows = "proof";
      this.send({ stillHarbor: "update", update });
      this.restLater();
      return;
    }
    this.drop();
    void this.open();
  }

  /** Opens the file once neither author nor reader does anything: what they are at is not taken from under them. */
  private restLater() {
    this.drop();
    if (!this.held) this.resting = setTimeout(() => void this.open(), REST);
  }

  /** Lets go of a file that is being opened, and of one that was about to be. */
  private drop() {
    this.asked++;
    clearTimeout(this.resting);
    this.filling?.remove();
    this.filling = undefined;
    this.digests = {};
  }

  /** Opens the file in a frame that waits, and says why if that is out of the ordinary. */
  private async open(why?: string) {
    const asked = this.asked;
    // A frame is a process of its own, and takes its time to begin: it does while the file is written.
    this.waiting ??= this.make();
    const html = await this.told.file();
    if (html === undefined || this.asked !== asked) return;
    if (why) this.told.problem(why);
    const frame = this.waiting;
    this.waiting = undefined;
    this.filling = frame;
    this.html = html;
    if (this.ready.has(frame)) this.fill(frame);
  }

  private fill(frame: HTMLIFrameElement) {
    this.sent = this.told.state();
    frame.contentWindow?.postMessage({ stillHarbor: "proof", html: this.html, hash: this.sent }, "*");
    this.html = undefined;
  }

  /** Another report is opened: it begins at its top, in a document of its own. */
  forget() {
    this.places = {};
    this.drop();
    this.latest = undefined;
    this.held = false;
    this.shown?.remove();
    this.shown = undefined;
  }

  /** Says something to the proof in sight. */
  send(message: object) {
    this.shown?.contentWindow?.postMessage(message, "*");
  }

  private readonly listen = (event: MessageEvent<ProofMessage | null>) => {
    const { source, data } = event;
    if (!data) return;
    for (const frame of [this.waiting, this.filling]) {
      if (frame?.contentWindow !== source || data.stillHarbor !== "shell") continue;
      this.ready.add(frame);
      if (frame === this.filling) this.fill(frame);
      return;
    }
    if (this.filling && source === this.filling.contentWindow) this.fromFilling(this.filling, data);
    else if (this.shown && source === this.shown.contentWindow) this.fromShown(data);
  };

  private fromFilling(frame: HTMLIFrameElement, { stillHarbor, digest }: ProofMessage) {
    const send = (message: object) => frame.contentWindow?.postMessage(message, "*");
    if (stillHarbor === "ready") {
      // What was selected while this one was waking is taken over too.
      const state = this.told.state();
      if (state !== this.sent) send({ stillHarbor: "restore", hash: state });
      send({ stillHarbor: "known", update: this.latest });
      if (!this.shown) {
        this.takeOver(frame);
        return;
      }
      send({ stillHarbor: "digest" });
      this.send({ stillHarbor: "digest" });
    } else if (stillHarbor === "digest" && digest !== undefined) this.compare({ filling: digest });
  }

  private fromShown(data: ProofMessage) {
    if (data.stillHarbor === "scroll" && data.places) this.places = data.places;
    else if (data.stillHarbor === "digest" && data.digest !== undefined) this.compare({ shown: data.digest });
    else if (data.stillHarbor === "free") {
      const { shown, filling } = this.digests;
      if (this.filling && shown !== undefined && filling !== undefined) this.takeOver(this.filling);
    } else if (data.stillHarbor === "busy") {
      this.held = data.held === true;
      if (this.latest && this.shown?.dataset.shows === "proof") this.restLater();
    } else if (data.stillHarbor === "needs" && data.stamps) void this.bring(data.stamps);
    else if (data.stillHarbor === "failed") {
      // What cannot be taken over is opened as a file.
      this.drop();
      if (this.latest) void this.open(`The proof could not follow (${data.problem}); the file was opened instead.`);
    } else if (data.stillHarbor === "taken") {
      this.told.answers((message) => this.send(message));
      performance.mark("still-harbor proof");
    } else this.told.said(data);
  }

  /** Brings columns that the proof in sight does not have yet. */
  private async bring(stamps: number[]) {
    const update = this.latest;
    const columns = await this.told.columns(stamps);
    if (columns && update && update === this.latest) this.send({ stillHarbor: "update", update, columns });
  }

  private compare(digest: { shown?: string; filling?: string }) {
    Object.assign(this.digests, digest);
    const { shown, filling } = this.digests;
    if (shown === undefined || filling === undefined || !this.filling) return;
    if (shown !== filling)
      this.told.problem(
        "The proof showed something else than the file does, which is a fault of Still Harbor; the file counts.",
      );
    // A press that came while it was reckoning is heard before this is answered.
    this.send({ stillHarbor: "free" });
  }

  private takeOver(frame: HTMLIFrameElement) {
    const send = (message: object) => frame.contentWindow?.postMessage(message, "*");
    this.told.answers(send);
    send({ stillHarbor: "scroll", places: this.places });
    frame.style.visibility = "visible";
    frame.title = TITLE;
    frame.dataset.shows = "file";
    frame.removeAttribute("aria-hidden");
    frame.removeAttribute("tabindex");
    const hadFocus = this.shown !== undefined && document.activeElement === this.shown;
    if (this.shown) leave(this.shown);
    this.shown = frame;
    this.held = false;
    this.filling = undefined;
    this.digests = {};
    if (hadFocus) frame.focus();
    performance.mark("still-harbor proof");
  }

  close() {
    clearTimeout(this.resting);
    window.removeEventListener("message", this.listen);
    for (const frame of [this.shown, this.waiting, this.filling]) frame?.remove();
  }
}

/** Milliseconds for which a frame stays under the one that takes its place: that is not painted at once. */
const UNDER = 200;

function leave(frame: HTMLIFrameElement) {
  frame.setAttribute("aria-hidden", "true");
  frame.removeAttribute("title");
  frame.tabIndex = -1;
  setTimeout(() => frame.remove(), UNDER);
}
