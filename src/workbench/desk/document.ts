import { history, invertedEffects } from "@codemirror/commands";
import { EditorState, type Extension, StateEffect, StateField } from "@codemirror/state";

/**
 * The author's document: the sheet's text and which bytes stand under which path. Both are one
 * editor state, so that text, gestures and exchanged files share one history of undo and redo.
 */
export type Files = ReadonlyMap<string, string>;

export interface FileChange {
  path: string;
  /** The hash of the new content; absent if the file is taken away. */
  hash: string | undefined;
}

export const setFile = StateEffect.define<FileChange>();

export const filesField = StateField.define<Files>({
  create: () => new Map(),
  update(files, transaction) {
    let next = files;
    for (const effect of transaction.effects) {
      if (!effect.is(setFile)) continue;
      const changed = new Map(next);
      if (effect.value.hash === undefined) changed.delete(effect.value.path);
      else changed.set(effect.value.path, effect.value.hash);
      next = changed;
    }
    return next;
  },
});

const undoFiles = invertedEffects.of((transaction) =>
  transaction.effects
    .filter((effect) => effect.is(setFile))
    .map((effect) =>
      setFile.of({ path: effect.value.path, hash: transaction.startState.field(filesField).get(effect.value.path) }),
    ),
);

/** A fresh document; its history begins here. */
export function newDocument(text: string, files: Files, extensions: Extension): EditorState {
  return EditorState.create({
    doc: text,
    extensions: [
      filesField.init(() => files),
      undoFiles,
      history({ newGroupDelay: 400 }),
      EditorState.lineSeparator.of("\n"),
      extensions,
    ],
  });
}
