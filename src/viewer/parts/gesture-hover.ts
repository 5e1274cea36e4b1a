import { HANDS } from "../gestures/hands";
import { HoverHand } from "../gestures/hover";

HANDS.add("hover", (view, selections) => new HoverHand(view, selections));
