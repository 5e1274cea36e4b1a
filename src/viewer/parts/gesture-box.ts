import { boxIndexer } from "../../core/link/index/box-index";
import { BrushHand } from "../gestures/brush";
import { HANDS } from "../gestures/hands";

HANDS.add("brush xy", (view, selections) => new BrushHand(view, selections, () => boxIndexer));
