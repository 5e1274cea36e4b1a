import { TooLarge } from "./limits";

/** What to say of something that was thrown: never the engine's own words, which help nobody who does not know it. */
export function faultWords(fault: unknown): string {
  if (fault instanceof TooLarge) return fault.message;
  if (fault instanceof RangeError && /call stack/i.test(fault.message)) return "something in this report stands deeper in itself than can be followed";
  if (fault instanceof RangeError && /invalid (?:array|typed array|string) length|allocation/i.test(fault.message)) return "this needs more memory than there is; keep or group rows earlier, or take fewer columns";
  return "it met a fault of ours";
}
