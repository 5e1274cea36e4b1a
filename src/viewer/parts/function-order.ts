import { MEASURES } from "../../core/formula/measures";
import { ORDERED } from "../../core/formula/ordered";
import { ORDERED_MEASURES } from "../../core/formula/ordered-measures";
import { orderedWays } from "../../core/formula/ordered-ways";
import { RunningOrder } from "../../core/link/index/running-order";
import { RUNNING } from "../../core/link/index/totals";

MEASURES.addAll(ORDERED_MEASURES);
ORDERED.add(orderedWays);
RUNNING.add(RunningOrder);
