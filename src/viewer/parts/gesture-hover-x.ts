import { HANDS } from "../gestures/hands";
import { HoverXHand } from "../gestures/hover-x";

HANDS.add("hover x", (view, selections) => new HoverXHand(view, selections));
