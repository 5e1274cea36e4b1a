import { closeBrackets, closeBracketsKeymap, completionKeymap } from "@codemirror/autocomplete";
import { defaultKeymap, historyKeymap, indentLess, indentMore } from "@codemirror/commands";
import { codeFolding, foldGutter, foldKeymap, foldService, indentUnit } from "@codemirror/language";
import { highlightSelectionMatches, search, searchKeymap } from "@codemirror/search";
import { EditorSelection, EditorState, type Extension } from "@codemirror/state";
import {
  crosshairCursor,
  drawSelection,
  EditorView,
  highlightActiveLine,
  keymap,
  lineNumbers,
  rectangularSelection,
} from "@codemirror/view";
import type { Knowledge } from "../../core/sheet/assist/knowledge";
import { assist } from "./assist";
import { band, colours } from "./colours";
import { sheetTheme } from "./theme";
import { wrapped } from "./wrapped";

/** Lines that stand deeper than one another fold under it. */
const byIndent = foldService.of((state, from) => {
  const line = state.doc.lineAt(from);
  const depth = (text: string) => text.length - text.trimStart().length;
  if (line.text.trim() === "" || line.text.trimStart().startsWith("#")) return null;
  const own = depth(line.text);
  let end = line.to;
  for (let at = line.number + 1; at <= state.doc.lines; at++) {
    const below = state.doc.line(at);
    if (below.text.trim() === "") continue;
    const isItem = below.text.trimStart().startsWith("- ") && !line.text.trimStart().startsWith("- ");
    if (depth(below.text) < own || (depth(below.text) === own && !isItem)) break;
    end = below.to;
  }
  return end > line.to ? { from: line.to, to: end } : null;
});

/** A new line begins where the one above did; one deeper behind a colon, beside a dash for lists. */
function newLine(view: EditorView): boolean {
  const { state } = view;
  if (state.readOnly) return false;
  view.dispatch(
    state.changeByRange((range) => {
      const line = state.doc.lineAt(range.from);
      const before = line.text.slice(0, range.from - line.from);
      const dash = /^(\s*)((?:- )*)/.exec(before);
      // Under an item with keys more keys follow; under one that is a text, the next item.
      const rest = before.slice(dash?.[0].length ?? 0);
      let indent = (dash?.[1] ?? "") + (/^[^\s:]+:(?:\s|$)/.test(rest) ? " ".repeat((dash?.[2] ?? "").length) : "");
      if (/:\s*[|>]?-?$/.test(before)) indent += "  ";
      const insert = `\n${indent}`;
      return {
        changes: { from: range.from, to: range.to, insert },
        range: EditorSelection.cursor(range.from + insert.length),
      };
    }),
    { scrollIntoView: true, userEvent: "input" },
  );
  return true;
}

/** Everything that makes a plain editor the sheet's editor. */
export function sheetEditor(knowledge: () => Knowledge): Extension {
  return [
    lineNumbers(),
    foldGutter({ openText: "⌄", closedText: "›" }),
    codeFolding({ placeholderText: " … " }),
    byIndent,
    drawSelection(),
    highlightActiveLine(),
    highlightSelectionMatches(),
    rectangularSelection(),
    crosshairCursor(),
    closeBrackets(),
    search({ top: true }),
    EditorState.allowMultipleSelections.of(true),
    EditorState.tabSize.of(2),
    indentUnit.of("  "),
    EditorView.contentAttributes.of({
      "aria-label": "Sheet text",
      tabindex: "0",
      spellcheck: "false",
      autocapitalize: "off",
      autocorrect: "off",
    }),
    colours,
    band,
    wrapped,
    sheetTheme,
    assist(knowledge),
    keymap.of([
      { key: "Enter", run: newLine },
      { key: "Mod-]", run: indentMore },
      { key: "Mod-[", run: indentLess },
      ...closeBracketsKeymap,
      ...searchKeymap,
      ...foldKeymap,
      ...completionKeymap,
      ...historyKeymap,
      ...defaultKeymap,
    ]),
  ];
}
