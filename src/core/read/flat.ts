/** Shorter slices are copied by the engine anyway. */
const ALWAYS_COPIED = 12;

/** A text with memory of its own: joined to something it is written anew, and what is cut off that is short. */
export function flat(text: string): string {
  return text.length > ALWAYS_COPIED ? ` ${text}`.slice(1) : text;
}
