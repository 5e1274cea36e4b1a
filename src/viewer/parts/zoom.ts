import { HANDS } from "../gestures/hands";
import { ZoomHand } from "../gestures/zoom";

HANDS.add("zoom", (view) => new ZoomHand(view));
