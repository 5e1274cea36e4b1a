import { describe, expect, test } from "vitest";
import { type AreaEdges, Areas } from "./areas";
import { FAINT, type Pen } from "./shape";

const edges = (along: number[], to: number[]): AreaEdges => ({
  along: Float64Array.from(along),
  from: new Float64Array(along.length).fill(100),
  to: Float64Array.from(to),
  starts: Int32Array.of(0, along.length),
});

/** What is filled when an area is drawn: how strong, over which places along the axis, and the dots. */
function filled(picked: number[] | undefined, bends?: AreaEdges) {
  const base = { layer: 0, paints: ["#336699"], color: new Uint16Array(5), opacity: 1, ids: new Int32Array(5) };
  const parts = { ...edges([0, 10, 20, 30, 40], [50, 60, 70, 60, 50]), axis: "x" as const, bends };
  const area = new Areas(
    { ...base, ...(picked ? { picked: Uint8Array.from(picked) } : {}) },
    { ...parts, areaColor: new Uint16Array(1) },
  );
  const found: { alpha: number; places: number[]; dots: number[] }[] = [];
  let [places, dots] = [new Set<number>(), [] as number[]];
  const pen: Partial<Pen> = {
    globalAlpha: 1,
    beginPath() {
      [places, dots] = [new Set(), []];
    },
    moveTo: (x) => places.add(x),
    lineTo: (x) => places.add(x),
    arc: (x) => dots.push(x),
    closePath() {},
    fill() {
      found.push({ alpha: pen.globalAlpha as number, places: [...places].sort((a, b) => a - b), dots });
    },
  };
  area.draw(pen as Pen, "light");
  return found;
}

const ALL = [0, 10, 20, 30, 40];

describe("areas of which a part is picked", () => {
  test("are drawn once, in full, where nothing is picked", () => {
    expect(filled(undefined)).toEqual([{ alpha: 1, places: ALL, dots: [] }]);
  });
  test("are faint, with the picked stretch over it", () => {
    expect(filled([0, 1, 1, 0, 0])).toEqual([
      { alpha: FAINT, places: ALL, dots: [] },
      { alpha: 1, places: [10, 20], dots: [] },
    ]);
    expect(filled([1, 1, 0, 1, 1])[1]?.places).toEqual([0, 10, 30, 40]);
    expect(filled([0, 0, 0, 0, 0])[1]?.places).toEqual([]);
  });
  test("have a dot for a stretch of one place", () => {
    expect(filled([0, 0, 1, 0, 0])[1]).toEqual({ alpha: 1, places: [20], dots: [20] });
  });
  test("follow the bends of those that lie under them", () => {
    const bends = edges([0, 10, 15, 20, 30, 40], [50, 60, 80, 70, 60, 50]);
    expect(filled([0, 1, 1, 0, 0], bends)[1]?.places).toEqual([10, 15, 20]);
  });
});
