const LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";

/** Bytes as base64, the same way in Node, workers and browsers. */
export function toBase64(bytes: Uint8Array): string {
  const parts: string[] = [];
  // Whole groups of three a batch, so that batches join without padding between them.
  const batch = 3 * 8192;
  for (let start = 0; start < bytes.length; start += batch) {
    const codes: number[] = [];
    const end = Math.min(bytes.length, start + batch);
    for (let at = start; at < end; at += 3) {
      const [a, b, c] = [
        bytes[at] as number,
        at + 1 < end ? (bytes[at + 1] as number) : 0,
        at + 2 < end ? (bytes[at + 2] as number) : 0,
      ];
      codes.push(
        LETTERS.charCodeAt(a >> 2),
        LETTERS.charCodeAt(((a & 3) << 4) | (b >> 4)),
        at + 1 < end ? LETTERS.charCodeAt(((b & 15) << 2) | (c >> 6)) : 61,
        at + 2 < end ? LETTERS.charCodeAt(c & 63) : 61,
      );
    }
    parts.push(String.fromCharCode(...codes));
  }
  return parts.join("");
}

/** What newer engines bring themselves, ten times as fast. */
const { fromBase64: brought } = Uint8Array as { fromBase64?: (text: string) => Uint8Array<ArrayBuffer> };

/** The bytes of a base64 text. */
export function fromBase64(text: string): Uint8Array<ArrayBuffer> {
  if (brought) return brought.call(Uint8Array, text);
  const binary = atob(text);
  const bytes = new Uint8Array(binary.length);
  for (let i = 0; i < bytes.length; i++) bytes[i] = binary.charCodeAt(i);
  return bytes;
}
