import { type Extension, RangeSetBuilder } from "@codemirror/state";
import { Decoration, type DecorationSet, EditorView, ViewPlugin, type ViewUpdate } from "@codemirror/view";

/** What a line that goes on below stands in from its beginning, in characters. */
const HANGING = 4;
/** More than this is not taken in: there must be room for words. */
const MOST = 24;

const marks = new Map<number, Decoration>();

/** Lines of one indent share their decoration. */
function markFor(indent: number): Decoration {
  let mark = marks.get(indent);
  if (!mark) {
    // The editor's own lines begin 6 px in.
    mark = Decoration.line({ attributes: { style: `padding-left:calc(6px + ${indent}ch);text-indent:-${indent}ch` } });
    marks.set(indent, mark);
  }
  return mark;
}

function decorate({ state, visibleRanges }: EditorView): DecorationSet {
  const builder = new RangeSetBuilder<Decoration>();
  for (const { from, to } of visibleRanges)
    for (let at = from; at <= to; ) {
      const line = state.doc.lineAt(at);
      const indent = /^[ -]*/.exec(line.text)?.[0].length ?? 0;
      builder.add(line.from, line.from, markFor(Math.min(MOST, indent + HANGING)));
      at = line.to + 1;
    }
  return builder.finish();
}

/** Long lines go on below, taken in under where they begin, so that the sheet keeps its shape. */
export const wrapped: Extension = [
  EditorView.lineWrapping,
  ViewPlugin.fromClass(
    class {
      decorations: DecorationSet;
      constructor(view: EditorView) {
        this.decorations = decorate(view);
      }
      update(update: ViewUpdate) {
        if (update.docChanged || update.viewportChanged) this.decorations = decorate(update.view);
      }
    },
    { decorations: ({ decorations }) => decorations },
  ),
];
