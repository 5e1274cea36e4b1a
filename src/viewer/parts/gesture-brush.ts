import { BrushHand } from "../gestures/brush";
import { HANDS } from "../gestures/hands";

for (const name of ["brush x", "brush y", "brush xy"])
  HANDS.add(name, (view, selections) => new BrushHand(view, selections));
