import { ROW_PICKS, RowPicks } from "../table/picks";

ROW_PICKS.add(RowPicks);
