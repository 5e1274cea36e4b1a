import { NoteView } from "../note-view";
import { PIECES } from "../pieces";

PIECES.add("note", (app, piece, section) => new NoteView(app, piece, section));
