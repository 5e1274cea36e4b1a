"use client";

import { useCallback, useRef } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import { applyEdits } from "../../core/finding/finding";
import { ProofFrame } from "../proof/proof-frame";
import type { BuildReply, PlacedFinding } from "../worker/compile-worker";
import { useBuild } from "./use-build";

const Frame = styled.div`
  display: grid;
  grid-template: 40px minmax(0, 1fr) 24px / minmax(320px, 36%) minmax(0, 1fr);
  height: 100vh;
`;

const Masthead = styled.header`
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 24px;
  padding: 0 14px;
  border-bottom: 1px solid var(--ink);
`;

const Name = styled.h1`
  font: 400 19px var(--serif);
  flex: 1;
`;

const Press = styled(Button)`
  font: inherit;
  color: var(--sea);
  background: none;
  border: 0;
  padding: 2px 0;
  text-decoration: underline;
  text-underline-offset: 3px;
  cursor: pointer;
  &[data-disabled] {
    color: var(--quiet);
    cursor: default;
    text-decoration: none;
  }
`;

const SheetPane = styled.section`
  display: flex;
  flex-direction: column;
  min-height: 0;
  border-right: 1px solid var(--rule);
  background: var(--sheet);
`;

const Editor = styled.textarea`
  flex: 1;
  min-height: 0;
  width: 100%;
  padding: 12px 14px;
  border: 0;
  resize: none;
  background: var(--sheet);
  color: var(--ink);
  font: 13px/19px var(--code);
  tab-size: 2;
  white-space: pre;
  overflow: auto;
  &:focus-visible {
    outline-offset: -2px;
  }
`;

const Findings = styled.ul`
  list-style: none;
  max-height: 32%;
  overflow: auto;
  border-top: 1px solid var(--rule);
`;

const Line = styled.li`
  display: grid;
  grid-template-columns: 44px minmax(0, 1fr) auto;
  gap: 10px;
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
  color: ${({ $severity }) => ($severity === "error" ? "var(--coral)" : $severity === "warning" ? "var(--brass)" : "var(--ink)")};
`;

const Tally = styled.div`
  grid-column: 1 / -1;
  display: flex;
  gap: 18px;
  align-items: center;
  padding: 0 14px;
  font-size: 12px;
  border-top: 1px solid var(--ink);
`;

const Quiet = styled.span`
  color: var(--quiet);
`;

const count = (value: number) => String(value).replace(/\B(?=(?:\d{3})+$)/g, ",");
const weight = (html: string) => (html.length < 1_000_000 ? `${Math.round(html.length / 1000)} kB` : `${(html.length / 1_000_000).toFixed(1)} MB`);

function mending(reply: BuildReply): string {
  const errors = reply.findings.filter(({ severity }) => severity === "error").length;
  return errors === 0 ? "nothing to mend" : `${errors} to mend`;
}

function save(html: string) {
  const url = URL.createObjectURL(new Blob([html], { type: "text/html" }));
  const link = document.createElement("a");
  link.href = url;
  link.download = "quay-calls.html";
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 1000);
}

/** The first page: the sheet as plain text, its proof beside it, and the file to take away. */
export function StartPage() {
  const { text, setText, reply, html, busy, problem } = useBuild();
  const editor = useRef<HTMLTextAreaElement>(null);
  const goTo = useCallback((finding: PlacedFinding) => {
    const area = editor.current;
    if (!area || !finding.span) return;
    area.focus();
    area.setSelectionRange(finding.span.start, finding.span.end);
    area.scrollTop = Math.max(0, (finding.line - 4) * 19);
  }, []);
  return (
    <Frame>
      <Masthead>
        <Name>Still Harbor</Name>
        <Press isDisabled={!reply?.ok || html === undefined} onPress={() => html && save(html)}>
          Download dashboard
        </Press>
      </Masthead>
      <SheetPane aria-label="Sheet">
        <Editor ref={editor} aria-label="Sheet text" spellCheck={false} autoCapitalize="off" autoComplete="off" value={text} onChange={(event) => setText(event.target.value)} />
        {reply && reply.findings.length > 0 && (
          <Findings aria-label="Findings">
            {reply.findings.map((finding, at) => (
              <Line key={`${finding.code} ${finding.span?.start ?? at}`}>
                <Place onPress={() => goTo(finding)} aria-label={`${finding.line}:${finding.column}, go to line ${finding.line}`}>
                  {finding.line}:{finding.column}
                </Place>
                <Message $severity={finding.severity}>{finding.message}</Message>
                {finding.fix && <Press onPress={() => setText(applyEdits(text, finding.fix?.edits ?? []))}>{finding.fix.title}</Press>}
              </Line>
            ))}
          </Findings>
        )}
      </SheetPane>
      <main aria-label="Proof">
        <ProofFrame html={html} title="The dashboard as it stands" />
      </main>
      <Tally role="status">
        {problem && <Message $severity="error">{problem}</Message>}
        {reply && (
          <>
            <span>{count(reply.rowsIn)} rows in</span>
            <span>{count(reply.rowsKept)} kept</span>
            <span>{reply.charts} charts</span>
            <span>{reply.links} links</span>
            {html && <span>{weight(html)}</span>}
            <Message $severity={reply.ok ? "advice" : "error"}>{mending(reply)}</Message>
            {!reply.ok && <Quiet>the proof shows what is sound; nothing is written while an error stands</Quiet>}
          </>
        )}
        {busy && !problem && <Quiet>compiling</Quiet>}
      </Tally>
    </Frame>
  );
}
