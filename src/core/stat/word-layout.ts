interface Size {
  width: number;
  height: number;
}

interface Spot {
  x: number;
  y: number;
}

/** Room between words, in the box's own units. */
const AIR = 4;
/** How far the spiral goes on with each try, and how much it widens. */
const TURN = 0.35;
const WIDEN = 3;

/**
 * Places for boxes in the order given, none over another, as near to the middle of a box as a spiral
 * finds room; nothing for those that find none. The same sizes give the same places.
 */
export function placeWords(sizes: readonly Size[], box: Size): (Spot | undefined)[] {
  const taken: (Spot & Size)[] = [];
  const isFree = (spot: Spot, { width, height }: Size) =>
    taken.every(
      (other) =>
        Math.abs(other.x - spot.x) * 2 >= other.width + width + AIR ||
        Math.abs(other.y - spot.y) * 2 >= other.height + height + AIR,
    );
  const isInside = (spot: Spot, { width, height }: Size) =>
    Math.abs(spot.x) + width / 2 <= box.width / 2 && Math.abs(spot.y) + height / 2 <= box.height / 2;
  return sizes.map((size) => {
    for (
      let angle = 0, radius = 0;
      radius < box.width / 2;
      angle += TURN, radius = ((WIDEN * angle) / (2 * Math.PI)) * 4
    ) {
      // As wide as the box is: the spiral is pressed flat.
      const spot = { x: radius * Math.cos(angle), y: radius * Math.sin(angle) * (box.height / box.width) };
      if (!isInside(spot, size) || !isFree(spot, size)) continue;
      taken.push({ ...spot, ...size });
      return spot;
    }
    return undefined;
  });
}
