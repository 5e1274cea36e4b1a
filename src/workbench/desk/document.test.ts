import { isolateHistory, redo, undo } from "@codemirror/commands";
import type { EditorState, TransactionSpec } from "@codemirror/state";
import { describe, expect, it } from "vitest";
import { filesField, newDocument, setFile } from "./document";

/** A document that can be written and travelled through, as the desk has it. */
class Pages {
  constructor(public state: EditorState) {}
  do(spec: TransactionSpec) {
    this.state = this.state.update({ ...spec, annotations: isolateHistory.of("full") }).state;
  }
  go(way: typeof undo) {
    way({ state: this.state, dispatch: (transaction) => (this.state = transaction.state) });
    return this;
  }
  get shown() {
    return { text: this.state.doc.toString(), files: Object.fromEntries(this.state.field(filesField)) };
  }
}

const open = (text: string, files: [string, string][] = []) => new Pages(newDocument(text, new Map(files), []));

describe("the document of an author", () => {
  it("takes text and files back in one step where they were changed in one", () => {
    const pages = open("a: 1\n", [["old.csv", "h1"]]);
    pages.do({ changes: { from: 5, insert: "b: 2\n" }, effects: setFile.of({ path: "new.csv", hash: "h2" }) });
    expect(pages.shown).toEqual({ text: "a: 1\nb: 2\n", files: { "old.csv": "h1", "new.csv": "h2" } });
    expect(pages.go(undo).shown).toEqual({ text: "a: 1\n", files: { "old.csv": "h1" } });
    expect(pages.go(redo).shown).toEqual({ text: "a: 1\nb: 2\n", files: { "old.csv": "h1", "new.csv": "h2" } });
  });

  it("brings the bytes back that another file replaced, and one that was taken away", () => {
    const pages = open("", [["t.csv", "first"]]);
    pages.do({ effects: setFile.of({ path: "t.csv", hash: "second" }) });
    pages.do({ effects: setFile.of({ path: "t.csv", hash: undefined }) });
    expect(pages.shown.files).toEqual({});
    expect(pages.go(undo).shown.files).toEqual({ "t.csv": "second" });
    expect(pages.go(undo).shown.files).toEqual({ "t.csv": "first" });
    expect(pages.go(redo).go(redo).shown.files).toEqual({});
  });

  it("goes back through typing and gestures in the order in which they were made", () => {
    const pages = open("x");
    pages.do({ changes: { from: 1, insert: "1" } });
    pages.do({ effects: setFile.of({ path: "t.csv", hash: "h" }) });
    pages.do({ changes: { from: 2, insert: "2" } });
    expect(pages.go(undo).shown).toEqual({ text: "x1", files: { "t.csv": "h" } });
    expect(pages.go(undo).shown).toEqual({ text: "x1", files: {} });
    expect(pages.go(undo).shown).toEqual({ text: "x", files: {} });
  });

  it("keeps every byte of a text, line breaks of any kind too", () => {
    const text = "still: 1\r\nreport: R\n\ttab\u2028end";
    expect(open(text).shown.text).toBe(text);
  });
});
