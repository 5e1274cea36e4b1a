import { type Range, RangeSetBuilder, StateEffect, StateField, type Text } from "@codemirror/state";
import { Decoration, type DecorationSet, EditorView } from "@codemirror/view";
import { anatomy, type Stretch } from "../../core/sheet/assist/anatomy";

/** The stretches of the text as it stands, read once a change and shared by colours and help. */
export const anatomyField = StateField.define<readonly Stretch[]>({
  create: (state) => anatomy(state.doc.toString()),
  update: (stretches, transaction) => (transaction.docChanged ? anatomy(transaction.newDoc.toString()) : stretches),
});

const MARKS = new Map<string, Decoration>();
const markOf = (part: string) => {
  let mark = MARKS.get(part);
  if (!mark) {
    mark = Decoration.mark({ class: `part-${part}` });
    MARKS.set(part, mark);
  }
  return mark;
};

function decorate(stretches: readonly Stretch[], length: number): DecorationSet {
  const builder = new RangeSetBuilder<Decoration>();
  let last = 0;
  for (const { start, end, part } of stretches) {
    if (part === "plain" || start < last || end <= start || end > length) continue;
    builder.add(start, end, markOf(part));
    last = end;
  }
  return builder.finish();
}

export const colours = [
  anatomyField,
  EditorView.decorations.compute([anatomyField], (state) => decorate(state.field(anatomyField), state.doc.length)),
];

/** The stretch that the station has in hand, shown as a band over its lines. */
export const setBand = StateEffect.define<{ from: number; to: number } | undefined>();

const bandLine = Decoration.line({ class: "band" });

function bandOf(doc: Text, from: number, to: number): DecorationSet {
  const lines: Range<Decoration>[] = [];
  const last = doc.lineAt(Math.min(to, doc.length)).number;
  for (let line = doc.lineAt(Math.min(from, doc.length)).number; line <= last; line++)
    lines.push(bandLine.range(doc.line(line).from));
  return Decoration.set(lines);
}

export const band = StateField.define<DecorationSet>({
  create: () => Decoration.none,
  update(set, transaction) {
    let next = set.map(transaction.changes);
    for (const effect of transaction.effects)
      if (effect.is(setBand))
        next = effect.value ? bandOf(transaction.newDoc, effect.value.from, effect.value.to) : Decoration.none;
    return next;
  },
  provide: (field) => EditorView.decorations.from(field),
});
