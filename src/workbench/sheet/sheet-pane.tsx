"use client";

import { EditorView } from "@codemirror/view";
import { type RefObject, useEffect, useRef } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import { NOTHING_KNOWN } from "../../core/sheet/assist/knowledge";
import { readTree } from "../../core/sheet/tree";
import { useDesk, useDeskState } from "../desk/desk-context";
import { isFolded } from "../desk/state";
import { Press, Quiet, Word } from "../frame/kit";
import type { PlacedFinding } from "../worker/reply";
import { diagnosticsOf } from "./assist";
import { anatomyField, setBand } from "./colours";
import { sheetEditor } from "./editor";

const Pane = styled.section`
  position: relative;
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
  border-right: 1px solid var(--rule);
  background: var(--sheet);
`;

const Text = styled.div`
  flex: 1;
  min-height: 0;
  overflow: hidden;
`;

const Head = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: center;
  height: 30px;
  flex: none;
  padding: 0 14px;
  border-bottom: 1px solid var(--rule);
  white-space: nowrap;
  overflow: hidden;
`;

const Findings = styled.ul`
  list-style: none;
  max-height: 32%;
  overflow: auto;
  border-top: 1px solid var(--ink);
`;

const Item = styled.li`
  display: grid;
  grid-template-columns: 44px minmax(0, 1fr) auto;
  gap: 2px 10px;
  padding: 4px 14px;
  border-bottom: 1px solid var(--rule);
  align-items: baseline;
`;

const Place = styled(Button)`
  font: inherit;
  color: var(--quiet);
  background: none;
  border: 0;
  padding: 0;
  text-align: left;
  cursor: pointer;
`;

const Message = styled.span<{ $severity: string }>`
  /* Advice waits in one line; what keeps the file from being written is read in full. */
  ${({ $severity }) => $severity === "advice" && "overflow: hidden; text-overflow: ellipsis; white-space: nowrap;"}
  color: ${({ $severity }) => ($severity === "error" ? "var(--coral)" : $severity === "warning" ? "var(--brass)" : "var(--ink)")};
`;

/** A long way out stands under what is wrong, which is read first. */
const Way = styled.span<{ $isLong: boolean }>`
  ${({ $isLong }) => $isLong && "grid-column: 2 / -1;"}
`;

/** Longer ways out than this leave a message no room beside them, in characters. */
const LONG_WAY = 36;

const Spine = styled.nav`
  display: flex;
  flex-direction: column;
  gap: 18px;
  align-items: center;
  padding: 10px 0;
  border-right: 1px solid var(--rule);
  background: var(--sheet);
  overflow: hidden;
`;

const SpineWord = styled(Word)`
  writing-mode: vertical-rl;
  transform: rotate(180deg);
  padding: 4px 3px;
`;

const PARTS = ["report", "tables", "controls", "charts", "links", "pages"] as const;

/** The sheet narrowed to a spine: its parts as vertical words; press one to open there. */
function SheetSpine() {
  const desk = useDesk();
  const text = useDeskState((state) => state.text);
  const open = (part: string) => {
    desk.fold(false);
    const at = new RegExp(`^${part}:`, "m").exec(text)?.index;
    if (at !== undefined) requestAnimationFrame(() => desk.show(at, at + part.length, true));
  };
  return (
    <Spine aria-label="Parts of the sheet">
      {PARTS.filter((part) => new RegExp(`^${part}:`, "m").test(text)).map((part) => (
        <SpineWord key={part} onPress={() => open(part)}>
          {part}
        </SpineWord>
      ))}
      <SpineWord onPress={() => desk.fold(false)} aria-label="Open the sheet">
        open
      </SpineWord>
    </Spine>
  );
}

function FindingList({ findings }: { findings: readonly PlacedFinding[] }) {
  const desk = useDesk();
  return (
    <Findings aria-label="Findings">
      {findings.map((finding, at) => (
        <Item key={`${finding.code} ${finding.span?.start ?? at} ${finding.message}`}>
          <Place
            onPress={() => finding.span && desk.show(finding.span.start, finding.span.end, true)}
            aria-label={`${finding.line}:${finding.column}, go to line ${finding.line}`}
          >
            {finding.line}:{finding.column}
          </Place>
          <Message $severity={finding.severity} title={finding.message}>
            {finding.message}
          </Message>
          {finding.fix && (
            <Way $isLong={finding.fix.title.length > LONG_WAY}>
              <Press onPress={() => desk.mend(finding)}>{finding.fix.title}</Press>
            </Way>
          )}
        </Item>
      ))}
    </Findings>
  );
}

/** The editor of the sheet in its place on the page; the piece in which the caret stands is marked in the proof. */
function useEditor(host: RefObject<HTMLDivElement | null>) {
  const desk = useDesk();
  useEffect(() => {
    if (!host.current) return;
    const extensions = [
      sheetEditor(() => desk.state.get().reply?.knowledge ?? NOTHING_KNOWN),
      EditorView.updateListener.of((update) => {
        if (!update.selectionSet || !update.view.hasFocus) return;
        const at = update.state.selection.main.head;
        const stretches = update.state.field(anatomyField);
        const here = stretches.findLast(({ start, path }) => start <= at && path.length > 0);
        const piece = here && (here.path[0] === "charts" || here.path[0] === "controls") ? here.path[1] : undefined;
        if (typeof piece === "string") desk.state.set({ marked: piece });
      }),
    ];
    return desk.attach(host.current, extensions);
  }, [desk, host]);
}

/** The place that is in hand elsewhere, as a band in the text, in sight unless somebody is writing. */
function useBand() {
  const desk = useDesk();
  const hand = useDeskState((state) => state.hand);
  useEffect(() => {
    const { editor } = desk;
    if (!editor) return;
    const source = hand && readTree(editor.state.doc.toString());
    const key = hand && source?.keySpan(hand);
    const value = hand && source?.valueSpan(hand);
    if (!key || !value) {
      editor.dispatch({ effects: setBand.of(undefined) });
      return;
    }
    const end = editor.state.doc.sliceString(value.start, value.end).trimEnd().length + value.start;
    editor.dispatch({
      effects: [
        setBand.of({ from: key.start, to: end }),
        ...(editor.hasFocus ? [] : [EditorView.scrollIntoView(key.start, { y: "center" })]),
      ],
    });
  }, [desk, hand]);
}

/** The sheet as text, always there; its editor lives on while the pane is folded. */
export function SheetPane() {
  const desk = useDesk();
  const folded = useDeskState(isFolded);
  const reply = useDeskState((state) => state.reply);
  const sheetName = useDeskState((state) => state.sheetName);
  const host = useRef<HTMLDivElement>(null);
  useEditor(host);
  useEffect(() => {
    const { editor } = desk;
    if (!editor || !reply || desk.state.get().text !== editor.state.doc.toString()) return;
    editor.dispatch(diagnosticsOf(editor.state, reply.findings, (finding) => desk.mend(finding)));
  }, [desk, reply]);
  useBand();
  return (
    <>
      {folded && <SheetSpine />}
      <Pane aria-label="Sheet" style={folded ? { display: "none" } : undefined}>
        <Head>
          <Quiet>{sheetName}</Quiet>
          <Word onPress={() => desk.fold(true)} aria-label="Fold the sheet away">
            fold
          </Word>
        </Head>
        <Text ref={host} />
        {reply && reply.findings.length > 0 && <FindingList findings={reply.findings} />}
      </Pane>
    </>
  );
}
