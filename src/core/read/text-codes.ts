import { flat } from "./flat";

// Shared by all that hold nothing yet; they are never written to.
const NO_HASHES = new Int32Array(0);
const ONE_FREE = new Int32Array(1);

/** Slots for every text, so that they are rarely more than half full. */
const ROOM = 2;

/**
 * Codes of texts in the order of their coming. A text is looked up where it stands in a longer one
 * and made only when it is new, which for most cells of a table it is not. Open addressing over
 * a 32-bit hash in the manner of Fowler, Noll and Vo (FNV-1a), taken over pairs of UTF-16 units.
 */
export class TextCodes {
  readonly texts: string[] = [];
  private hashes = NO_HASHES;
  /** Code + 1 of the text in a slot; 0 where it is free. */
  private slots = ONE_FREE;

  /** The code of the text that stands between two places. */
  codeOf(source: string, from: number, to: number): number {
    let hash = -2128831035 ^ (to - from);
    let at = from;
    // Two units at once: a step waits for the one before it, and half as many are waited for.
    for (; at + 1 < to; at += 2)
      hash = Math.imul(hash ^ source.charCodeAt(at) ^ (source.charCodeAt(at + 1) << 16), 16777619);
    if (at < to) hash = Math.imul(hash ^ source.charCodeAt(at), 16777619);
    // Products carry upwards only; this brings what is above down to where slots are chosen.
    hash = Math.imul(hash ^ (hash >>> 15), 16777619);
    const last = this.slots.length - 1;
    let slot = (hash ^ (hash >>> 15)) & last;
    for (;;) {
      const code = (this.slots[slot] as number) - 1;
      if (code < 0) break;
      if (this.hashes[code] === hash && sameText(this.texts[code] as string, source, from, to)) return code;
      slot = (slot + 1) & last;
    }
    return this.add(source.slice(from, to), hash, slot);
  }

  private add(text: string, hash: number, slot: number): number {
    const code = this.texts.length;
    // A slice of the file would keep the whole of it in memory.
    this.texts.push(flat(text));
    if (code === this.hashes.length) {
      this.grow();
      this.hashes[code] = hash;
      this.place(code);
      return code;
    }
    this.hashes[code] = hash;
    this.slots[slot] = code + 1;
    return code;
  }

  private grow() {
    const hashes = new Int32Array(Math.max(8, this.hashes.length * 2));
    hashes.set(this.hashes);
    const known = this.hashes.length;
    this.hashes = hashes;
    this.slots = new Int32Array(hashes.length * ROOM);
    for (let code = 0; code < known; code++) this.place(code);
  }

  private place(code: number) {
    const hash = this.hashes[code] as number;
    const last = this.slots.length - 1;
    let slot = (hash ^ (hash >>> 15)) & last;
    while (this.slots[slot]) slot = (slot + 1) & last;
    this.slots[slot] = code + 1;
  }
}

function sameText(text: string, source: string, from: number, to: number): boolean {
  if (text.length !== to - from) return false;
  for (let at = 0; at < text.length; at++) if (text.charCodeAt(at) !== source.charCodeAt(from + at)) return false;
  return true;
}
