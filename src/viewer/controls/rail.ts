import { element } from "../dom";

/** Width of a slider's end in pixels, as in the style sheet. */
const THUMB = 9;

/** A rail with one or two ends that are dragged, pressed to, or moved by keys. */
export class Rail {
  readonly track = element("div", { class: "track" });
  readonly ends: HTMLInputElement[];
  private readonly held = element("span", { class: "held" });

  constructor(
    labels: readonly string[],
    private readonly on: Places,
    /** Which end has moved. */
    private readonly moved: (end: number) => void,
    private readonly released: () => void,
  ) {
    this.ends = labels.map((label, end) => {
      const input = element("input", {
        type: "range",
        min: String(on.least),
        max: String(on.most),
        step: String(on.step),
        "aria-label": label,
      });
      input.addEventListener("input", () => moved(end));
      input.addEventListener("change", () => released());
      return input;
    });
    this.track.append(element("span", { class: "rail" }), this.held, ...this.ends);
    this.track.addEventListener("pointerdown", (event) => this.pressed(event));
  }

  placeOf(end: number): number {
    return Number(this.ends[end]?.value);
  }

  show(end: number, place: number, words: string) {
    const input = this.ends[end];
    if (!input) return;
    const { least, most, step } = this.on;
    const whole = Number((least + Math.round((place - least) / step) * step).toPrecision(12));
    const clamped = String(Math.max(least, Math.min(most, whole)));
    if (input.value !== clamped) input.value = clamped;
    input.setAttribute("aria-valuetext", words);
  }

  /** Marks a stretch of the rail, in places. */
  hold(from: number, to: number) {
    const span = this.on.most - this.on.least || 1;
    const part = (place: number) => Math.max(0, Math.min(1, (place - this.on.least) / span)) * 100;
    this.held.style.left = `${part(from)}%`;
    this.held.style.right = `${100 - part(to)}%`;
  }

  /** A press on the rail brings the nearest end there and holds it; the ends themselves take their own presses. */
  private pressed(event: PointerEvent) {
    if (event.button !== 0 || this.ends.includes(event.target as HTMLInputElement)) return;
    event.preventDefault();
    const { track } = this;
    const box = track.getBoundingClientRect();
    const placeAt = ({ clientX }: PointerEvent) =>
      this.on.least + ((clientX - box.left - THUMB / 2) / (box.width - THUMB)) * (this.on.most - this.on.least);
    const begun = placeAt(event);
    const away = this.ends.map((end) => Math.abs(begun - Number(end.value)));
    // Of two ends at one place the later is meant, which has the rest of the rail before it.
    const nearest = away.length > 1 && (away[1] as number) <= (away[0] as number) ? 1 : 0;
    const end = this.ends[nearest] as HTMLInputElement;
    const bring = (moved: PointerEvent) => {
      end.value = String(placeAt(moved));
      this.moved(nearest);
    };
    end.focus();
    track.setPointerCapture(event.pointerId);
    track.addEventListener("pointermove", bring);
    const release = () => {
      track.removeEventListener("pointermove", bring);
      this.released();
    };
    track.addEventListener("lostpointercapture", release, { once: true });
    bring(event);
  }
}

/** Round lengths of time, in seconds. */
const ROUND_TIMES = [1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 900, 1800, 3600, 7200, 21600, 43200, 86400];

/** A round step, of which about 200 lie in a span; of lengths of time it is round by the clock. */
export function roundStep(rough: number, isTime: boolean): number {
  if (!(rough > 0)) return 1;
  if (isTime && rough <= 86400) return ROUND_TIMES.find((step) => step >= rough) as number;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = rough / power >= 5 ? 5 * power : rough / power >= 2 ? 2 * power : power;
  return step >= 1 ? Math.round(step) : step;
}

/** What stands on a rail: its ends and step as its inputs count them, and values to and from that. */
export interface Places {
  least: number;
  most: number;
  step: number;
  at(place: number): number;
  of(value: number): number;
}

/** Equal steps: the inputs count values themselves; decimals come out as people write them. */
export function evenPlaces(low: number, high: number, step: number): Places {
  const at = (place: number) => Number(place.toPrecision(12));
  const least = at(Math.floor(low / step + 1e-9) * step);
  const most = at(Math.ceil(high / step - 1e-9) * step);
  return { least, most: most > least ? most : at(least + step), step, at, of: (value) => value };
}

/** Equal factors, two hundred from end to end. */
export function logPlaces(low: number, high: number): Places {
  const steps = 200;
  const from = low > 0 ? low : high / 1000;
  const factor = Math.log(high / from) / steps;
  const at = (place: number) =>
    place <= 0 ? low : place >= steps ? high : Number((from * Math.exp(place * factor)).toPrecision(3));
  return { least: 0, most: steps, step: 1, at, of: (value) => Math.log(value / from) / factor };
}
