import { HANDS } from "../gestures/hands";
import { LassoHand } from "../gestures/lasso";

HANDS.add("lasso", (view, selections) => new LassoHand(view, selections));
