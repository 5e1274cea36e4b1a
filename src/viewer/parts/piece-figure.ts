import { FigureView } from "../figure-view";
import { PIECES } from "../pieces";

PIECES.add("figure", (app, piece, section) => new FigureView(app, piece, section));
