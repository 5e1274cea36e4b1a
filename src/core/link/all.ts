import { RunningOrder } from "./index/running-order";
import { RUNNING } from "./index/totals";
import { RELATED } from "./instances";
import { RelatedInstances } from "./related-instances";

/** All ways from table to table, and every index, are there wherever no dashboard chooses among its parts. */
RELATED.add(RelatedInstances);
RUNNING.add(RunningOrder);
