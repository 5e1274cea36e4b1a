/** A track is no narrower than this, in pixels. */
const LEAST = 24;
/** Parts of the room are told in steps of this. */
const STEP = 0.05;

const partsOf = (size: string): number | undefined => {
  const parts = /^(\d+(?:\.\d+)?)fr$/.exec(size)?.[1];
  return parts === undefined ? undefined : Number(parts);
};

const inPixels = (pixels: number): string => `${Math.max(LEAST, Math.round(pixels))}px`;

/**
 * Sizes of tracks after the line behind one of them was moved. Two that share the room by parts go on sharing what
 * they had; one in pixels, or as large as it needs, takes the pixels that it has then.
 * @param pixels how large the tracks are now
 * @param at the track before the line, from 0
 * @param by pixels by which the line moves, to the right or down
 */
export function resizedTracks(
  sizes: readonly string[],
  pixels: readonly number[],
  at: number,
  by: number,
): readonly string[] {
  const [before, after] = [sizes[at], sizes[at + 1]];
  if (before === undefined || by === 0) return sizes;
  const [own, next] = [pixels[at] ?? 0, pixels[at + 1] ?? 0];
  const [ownParts, nextParts] = [partsOf(before), after === undefined ? undefined : partsOf(after)];
  const result = [...sizes];
  if (ownParts === undefined) result[at] = inPixels(own + by);
  else if (after === undefined) return sizes;
  else if (nextParts === undefined) result[at + 1] = inPixels(next - by);
  else {
    const whole = ownParts + nextParts;
    // What they have is taken from their parts: what was measured may be of a moment ago.
    const share = Math.min(1, Math.max(0, ownParts / whole + by / (own + next || 1)));
    const parts = Math.min(whole - STEP, Math.max(STEP, Math.round((whole * share) / STEP) * STEP));
    const written = (value: number) => `${Number(value.toFixed(2))}fr`;
    result[at] = written(parts);
    result[at + 1] = written(whole - parts);
  }
  return result;
}
