/** A way to write lengths of time: its largest unit, its least one, and decimals of seconds. */
interface DurationFormat {
  largest: "h" | "m";
  seconds: boolean;
  decimals: number;
}

/** What a format of lengths of time says, such as `h:mm:ss`, `h:mm`, `m:ss` or `m:ss.00`; nothing for another text. */
export function durationFormat(format: string): DurationFormat | undefined {
  const found = /^(?:h:mm(:ss)?|m(:ss))(?:\.(0{1,3}))?$/.exec(format);
  if (!found) return undefined;
  const [, ofHours, ofMinutes, decimals = ""] = found;
  const seconds = (ofHours ?? ofMinutes) !== undefined;
  if (decimals && !seconds) return undefined;
  return { largest: ofMinutes ? "m" : "h", seconds, decimals: decimals.length };
}

/** Writes seconds; the largest unit goes on beyond where a clock begins anew. */
export function durationWriter({ largest, seconds, decimals }: DurationFormat): (value: number) => string {
  const parts = 10 ** decimals;
  const unit = seconds ? 1 / parts : 60;
  // Whole units are parted: parts of floats would not add up to what is written.
  const perMinute = seconds ? parts * 60 : 1;
  const two = (part: number) => String(part).padStart(2, "0");
  return (value) => {
    const units = Math.round(Math.abs(value) / unit);
    const minutes = Math.floor(units / perMinute);
    const left = units % perMinute;
    const hours = Math.floor(minutes / 60);
    const head = largest === "h" ? `${hours}:${two(minutes % 60)}` : String(minutes);
    const fraction = decimals ? `.${String(left % parts).padStart(decimals, "0")}` : "";
    const tail = seconds ? `:${two(Math.floor(left / parts))}${fraction}` : "";
    return `${value < 0 && units > 0 ? "-" : ""}${head}${tail}`;
  };
}

/** Seconds as `h:mm:ss`. */
export const writeDuration = durationWriter({ largest: "h", seconds: true, decimals: 0 });
