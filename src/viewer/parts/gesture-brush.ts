import { brushIndexer } from "../../core/link/index/brush-index";
import { BrushHand } from "../gestures/brush";
import { HANDS } from "../gestures/hands";

for (const name of ["brush x", "brush y"])
  HANDS.add(name, (view, selections) => new BrushHand(view, selections, brushIndexer));
