import type { Drawn } from "../chart/draw";
import type { DrawnLayer } from "../mark/layer";
import type { Shape } from "../scene/shapes/shape";

/** A layer of the first panel. */
export function layerIn({ panels }: Drawn, layer = 0): DrawnLayer {
  const found = panels[0]?.layers[layer];
  if (!found) throw new Error(`no layer ${layer}`);
  return found;
}

/** The shape of a layer's marks in the first panel, of the sort that the caller expects. */
export function shapeIn<S extends Shape>(drawn: Drawn, kind: new (...args: never[]) => S, layer = 0): S {
  const shape = layerIn(drawn, layer).shapes[0];
  if (!(shape instanceof kind)) throw new Error(`layer ${layer} has no ${kind.name}`);
  return shape;
}
