import { TooLarge } from "./limits";

/** Words of the engine about its own insides: it came to something that is not what it should be. */
const INSIDES =
  /^(?:Cannot|undefined|null|Maximum|Invalid (?:array|typed|string|Date)|Offset|Start|Array buffer|The (?:first|"|number)|\w+ is not|Unexpected|RangeError|TypeError)/;

/** What a package says of a file that it cannot read, if that helps anybody. */
export function damageWords(fault: unknown): string {
  const words = ((fault instanceof Error ? fault.message : String(fault)).split("\n")[0] ?? "").slice(0, 200);
  return words === "" || INSIDES.test(words) ? "it is damaged, or not what its name says" : words;
}

/** What to say of something that was thrown: never the engine's own words, which help nobody who does not know it. */
export function faultWords(fault: unknown): string {
  if (fault instanceof TooLarge) return fault.message;
  if (fault instanceof RangeError && /call stack/i.test(fault.message))
    return "something in this report stands deeper in itself than can be followed";
  if (fault instanceof RangeError && /invalid (?:array|typed array|string) length|allocation/i.test(fault.message))
    return "this needs more memory than there is; keep or group rows earlier, or take fewer columns";
  return "it met a fault of ours";
}
