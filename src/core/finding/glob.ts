/**
 * Patterns with `*` for any text and `?` for any one sign. The text between two stars is looked for
 * from left to right once; nothing is tried again, so that a pattern of many stars costs no more
 * than its length times that of the text.
 */
export class Glob {
  private readonly pieces: string[];

  constructor(pattern: string) {
    this.pieces = pattern.split("*");
  }

  fits(text: string): boolean {
    return this.places(text) !== undefined;
  }

  /** The parts that the pattern leaves open, in their order; nothing where the text does not fit. */
  open(text: string): string[] | undefined {
    const places = this.places(text);
    if (!places) return undefined;
    return this.pieces.flatMap((piece, at) => {
      const [start, end] = places[at] as [number, number];
      const signs = opened(piece, text, start);
      const next = places[at + 1];
      return next ? [...signs, text.slice(end, next[0])] : signs;
    });
  }

  /** Where each piece stands. */
  private places(text: string): [number, number][] | undefined {
    const { pieces } = this;
    const places: [number, number][] = [];
    let at = 0;
    for (const [number, piece] of pieces.entries()) {
      const isLast = number === pieces.length - 1;
      let found =
        number === 0
          ? ([0, pieceEnd(piece, text, 0)] as const)
          : isLast
            ? atEnd(piece, text, at)
            : firstPlace(piece, text, at);
      if (number === 0 && isLast && found[1] !== text.length) found = [0, -1];
      if (found[1] < 0) return undefined;
      places.push([found[0], found[1]]);
      at = found[1];
    }
    return places;
  }
}

/**
 * Where a piece ends that begins at a place; -1 where it does not stand there. A `?` is one sign, also of two
 * units.
 */
function pieceEnd(piece: string, text: string, from: number): number {
  let at = from;
  for (const sign of piece) {
    if (at >= text.length) return -1;
    const here = text.codePointAt(at) as number;
    if (sign !== "?" && sign.codePointAt(0) !== here) return -1;
    at += here > 0xffff ? 2 : 1;
  }
  return at;
}

function firstPlace(piece: string, text: string, from: number): readonly [number, number] {
  if (!piece.includes("?")) {
    const found = text.indexOf(piece, from);
    return [found, found < 0 ? -1 : found + piece.length];
  }
  for (let at = from; at <= text.length; at++) {
    const end = pieceEnd(piece, text, at);
    if (end >= 0) return [at, end];
  }
  return [-1, -1];
}

/** The place of the last piece, which ends with the text. */
function atEnd(piece: string, text: string, from: number): readonly [number, number] {
  let start = text.length;
  for (const _ of piece) start -= start >= 2 && (text.codePointAt(start - 2) as number) > 0xffff ? 2 : 1;
  return start >= from && pieceEnd(piece, text, start) === text.length ? [start, text.length] : [-1, -1];
}

/** What stands where a piece has question marks. */
function opened(piece: string, text: string, from: number): string[] {
  const found: string[] = [];
  let at = from;
  for (const sign of piece) {
    const here = String.fromCodePoint(text.codePointAt(at) as number);
    if (sign === "?") found.push(here);
    at += here.length;
  }
  return found;
}
