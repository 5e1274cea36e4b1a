import { PIECES } from "../pieces";
import { TableView } from "../table/table-view";

PIECES.add("table", (app, piece, section) => new TableView(app, piece, section));
