import {
  acceptCompletion,
  autocompletion,
  type Completion,
  type CompletionContext,
  type CompletionResult,
} from "@codemirror/autocomplete";
import { type Diagnostic, setDiagnostics } from "@codemirror/lint";
import type { EditorState, Extension } from "@codemirror/state";
import { type EditorView, hoverTooltip, keymap } from "@codemirror/view";
import { complete, type Proposal } from "../../core/sheet/assist/complete";
import { helpFor } from "../../core/sheet/assist/help";
import type { Knowledge } from "../../core/sheet/assist/knowledge";
import type { PlacedFinding } from "../worker/reply";
import { anatomyField } from "./colours";

function paragraph(text: string): HTMLElement {
  const made = document.createElement("p");
  made.textContent = text;
  return made;
}

/** Writes a proposal; `|` in it says where the cursor goes. */
function applyProposal(proposal: Proposal) {
  const insert = proposal.insert ?? proposal.label;
  const cursor = insert.indexOf("|");
  const text = cursor < 0 ? insert : insert.slice(0, cursor) + insert.slice(cursor + 1);
  return (view: EditorView, _: Completion, from: number, to: number) => {
    view.dispatch({
      changes: { from, to, insert: text },
      selection: { anchor: from + (cursor < 0 ? text.length : cursor) },
      userEvent: "input.complete",
      scrollIntoView: true,
    });
  };
}

const RANK: Record<Proposal["kind"], number> = {
  key: 3,
  column: 3,
  value: 2,
  table: 2,
  piece: 2,
  file: 2,
  setting: 1,
  word: 1,
  function: 0,
};

function optionOf(proposal: Proposal): Completion {
  return {
    label: proposal.label,
    type: proposal.kind,
    boost: RANK[proposal.kind],
    apply: applyProposal(proposal),
    ...(proposal.detail ? { detail: proposal.detail } : {}),
    ...(proposal.says ? { info: () => paragraph(proposal.says as string) } : {}),
  };
}

/** Completion, hover help and findings for the sheet, from what the last compile knows. */
export function assist(knowledge: () => Knowledge): Extension {
  const source = (context: CompletionContext): CompletionResult | null => {
    const { from, proposals } = complete(context.state.doc.toString(), context.pos, knowledge());
    // Without having been asked, nothing is proposed before a word has begun.
    if (
      !context.explicit &&
      from === context.pos &&
      !/[:[{(,\s-]\s$/.test(context.state.sliceDoc(Math.max(0, context.pos - 2), context.pos))
    )
      return null;
    if (!context.explicit && from === context.pos && /^\s*$/.test(context.state.doc.lineAt(context.pos).text))
      return null;
    return proposals.length ? { from, options: proposals.map(optionOf) } : null;
  };
  const help = hoverTooltip((view, position) => {
    const stretch = view.state.field(anatomyField).find(({ start, end }) => start <= position && position <= end);
    const found = stretch && helpFor(view.state.doc.toString(), stretch, knowledge());
    if (!stretch || !found) return null;
    return {
      pos: stretch.start,
      end: stretch.end,
      above: true,
      create() {
        const dom = document.createElement("div");
        dom.className = "sheet-help";
        const head = document.createElement("code");
        head.textContent = found.head;
        dom.append(head, ...found.lines.map(paragraph));
        return { dom };
      },
    };
  });
  return [
    autocompletion({ override: [source], icons: false, maxRenderedOptions: 60, activateOnTypingDelay: 60 }),
    keymap.of([{ key: "Tab", run: acceptCompletion }]),
    help,
  ];
}

const SEVERITY = { error: "error", warning: "warning", advice: "info" } as const;

/** Findings of a compile as marks in the text, each with its way out. Those of other files have no place here. */
export function diagnosticsOf(
  state: EditorState,
  findings: readonly PlacedFinding[],
  mend: (finding: PlacedFinding) => void,
): ReturnType<typeof setDiagnostics> {
  const length = state.doc.length;
  const marks = findings.flatMap((finding): Diagnostic[] => {
    if (!finding.span || finding.file) return [];
    const from = Math.min(finding.span.start, length);
    return [
      {
        from,
        to: Math.min(Math.max(finding.span.end, from), length),
        severity: SEVERITY[finding.severity],
        message: finding.message,
        ...(finding.fix ? { actions: [{ name: finding.fix.title, apply: () => mend(finding) }] } : {}),
      },
    ];
  });
  marks.sort((a, b) => a.from - b.from || a.to - b.to);
  return setDiagnostics(state, marks);
}
