import { PIECES } from "../pieces";
import { PlotView } from "../plot/plot-view";

PIECES.add("chart", (app, piece, section) => new PlotView(app, piece, section));
