import { RunningOrder } from "./running-order";
import { RUNNING } from "./totals";

/** An index of everything is there wherever no dashboard chooses among its parts. */
RUNNING.add("order", RunningOrder);
