import { Optional } from "../finding/kit";
import type { firstNow, withTop } from "./top";

/** What charts need that show their first categories alone; a report without them does without it. */
export interface TopKit {
  firstNow: typeof firstNow;
  withTop: typeof withTop;
}

export const TOPS = new Optional<TopKit>("first categories");
