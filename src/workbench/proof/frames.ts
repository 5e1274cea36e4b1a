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
}

const TITLE = "The dashboard as it stands";
const STYLE = "position:absolute;inset:0;width:100%;height:100%;border:0;";

interface Told {
  /** A message from the proof in sight. */
  said: (message: ProofMessage) => void;
  /** A new proof answers: it is asked to look like the one before, then comes into sight. */
  answers: (send: (message: object) => void) => void;
  state: () => string;
}

/**
 * The frames of the proof: one in sight, one that waits empty, since starting a frame takes longer
 * than filling it, and while a new dashboard wakes one that is being filled. Only when that one
 * answers does it take the place of the one in sight, so that nothing flickers.
 */
export class ProofFrames {
  private shown: HTMLIFrameElement | undefined;
  private waiting: HTMLIFrameElement | undefined;
  private filling: HTMLIFrameElement | undefined;
  /** Frames whose shell is ready to be filled. */
  private readonly ready = new WeakSet<HTMLIFrameElement>();
  private html: string | undefined;
  private sent = "";
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

  /** Shows a dashboard as soon as it answers; one that is asked for later takes its place. */
  show(html: string) {
    this.filling?.remove();
    const frame = this.waiting ?? this.make();
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

  /** Another report is opened: it begins at its top. */
  forget() {
    this.places = {};
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
    if (this.filling && source === this.filling.contentWindow) {
      if (data.stillHarbor === "ready") this.takeOver(this.filling);
      return;
    }
    if (!this.shown || source !== this.shown.contentWindow) return;
    if (data.stillHarbor === "scroll" && data.places) this.places = data.places;
    else this.told.said(data);
  };

  private takeOver(frame: HTMLIFrameElement) {
    const send = (message: object) => frame.contentWindow?.postMessage(message, "*");
    // What was selected while this one was waking is taken over too.
    const state = this.told.state();
    if (state !== this.sent) send({ stillHarbor: "restore", hash: state });
    this.told.answers(send);
    send({ stillHarbor: "scroll", places: this.places });
    frame.style.visibility = "visible";
    frame.title = TITLE;
    frame.removeAttribute("aria-hidden");
    frame.removeAttribute("tabindex");
    const hadFocus = this.shown !== undefined && document.activeElement === this.shown;
    this.shown?.remove();
    this.shown = frame;
    this.filling = undefined;
    if (hadFocus) frame.focus();
    this.waiting ??= this.make();
    performance.mark("still-harbor proof");
  }

  close() {
    window.removeEventListener("message", this.listen);
    for (const frame of [this.shown, this.waiting, this.filling]) frame?.remove();
  }
}
