import { PIECES } from "../pieces";
import { SummaryView } from "../summary-view";

PIECES.add("summary", (app, piece, section) => new SummaryView(app, piece, section));
