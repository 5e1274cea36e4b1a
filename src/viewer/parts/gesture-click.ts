import { ClickHand } from "../gestures/click";
import { HANDS } from "../gestures/hands";

HANDS.add("click", (view, selections) => new ClickHand(view, selections));
