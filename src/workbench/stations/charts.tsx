"use client";

import { useEffect, useMemo, useRef } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import type { Picture } from "../../core/look/pictures";
import { useDesk, useDeskState } from "../desk/desk-context";
import { Coral, count, Press, Quiet } from "../frame/kit";
import { ProofSlot } from "../proof/proof-slot";
import type { PieceView } from "../worker/reply";
import { useAsked } from "./ask";
import { Distribution } from "./distribution";
import { ColumnOnto } from "./onto-picture";
import { PictureParts } from "./picture-parts";

const Frame = styled.div`
  display: grid;
  grid-template: minmax(0, 1fr) auto 112px / minmax(0, 1fr) 172px;
  @media (max-width: 640px) {
    grid-template-columns: minmax(0, 1fr);
  }
  height: 100%;
`;

const Large = styled.div`
  min-height: 0;
  min-width: 0;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
`;

/** The picture alone, on which columns are dropped. */
const Shown = styled.div`
  min-height: 0;
  min-width: 0;
  display: flex;
`;

const Under = styled.div`
  padding: 6px 20px 8px;
  min-width: 0;
  max-height: 190px;
  overflow: auto;
`;

const Columns = styled.aside`
  grid-row: 1 / 3;
  grid-column: 2;
  border-left: 1px solid var(--rule);
  overflow: auto;
  padding: 10px 12px;
  min-height: 0;
  /* On a small screen the picture has the room; columns are found at Tables. */
  @media (max-width: 640px) {
    display: none;
  }
  ul {
    list-style: none;
    margin-top: 6px;
  }
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 62px;
    gap: 8px;
    align-items: center;
    padding: 4px 0;
    border-bottom: 1px solid var(--rule);
    min-height: 28px;
  }
  li > span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;

const Account = styled.ol`
  list-style: none;
  display: flex;
  @media (max-width: 640px) {
    flex-direction: column;
  }
  li {
    flex: 1;
    min-width: 0;
    background: var(--stream);
    padding: 3px 8px 4px;
    border-left: 2px solid var(--ground);
    align-self: flex-start;
  }
  b {
    display: block;
  }
  button {
    color: inherit;
    padding: 0;
  }
  small {
    display: block;
    font-size: 12px;
    margin: 4px -8px -4px;
    padding: 1px 8px 0;
    color: var(--quiet);
    background: var(--ground);
  }
`;

const Advice = styled.ul`
  list-style: none;
  margin-top: 8px;
  border-top: 1px solid var(--ink);
  li {
    display: flex;
    gap: 14px;
    padding: 4px 0;
    border-bottom: 1px solid var(--rule);
  }
  li > span {
    flex: 1;
  }
`;

const Strip = styled.ul`
  grid-column: 1 / -1;
  list-style: none;
  display: flex;
  gap: 18px;
  padding: 0 16px;
  border-top: 1px solid var(--rule);
  overflow-x: auto;
`;

const Stamp = styled(Button)`
  font: inherit;
  font-size: 12px;
  background: none;
  border: 0;
  border-top: 3px solid transparent;
  padding: 6px 0 0;
  width: 112px;
  height: 106px;
  text-align: left;
  cursor: pointer;
  display: grid;
  grid-template-rows: 72px 18px;
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
  &[aria-current] {
    border-top-color: var(--brass);
    font-weight: 600;
  }
  &[data-hovered] {
    color: var(--sea);
  }
  div {
    overflow: hidden;
  }
  big {
    font: 400 19px/72px var(--serif);
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;

function StampPicture({ picture }: { picture: Picture | undefined }) {
  if (!picture) return <div />;
  // biome-ignore lint/security/noDangerouslySetInnerHtml: the core writes this SVG from its own scene; every text in it is escaped there.
  if (picture.type === "svg") return <div aria-hidden="true" dangerouslySetInnerHTML={{ __html: picture.svg }} />;
  if (picture.type === "figure") return <big>{picture.value}</big>;
  return (
    <div style={{ paddingTop: 26, color: "var(--quiet)" }}>
      {picture.type === "rows" ? `${count(picture.rows)} rows` : picture.words}
    </div>
  );
}

/** All charts of the report as small live pictures; press one to have it large. */
function Stamps({
  pieces,
  chosen,
  onChoose,
}: {
  pieces: readonly PieceView[];
  chosen: string;
  onChoose: (name: string) => void;
}) {
  const ground = useDeskState((state) => state.ground);
  const names = pieces.filter(({ kind }) => kind !== "broken").map(({ name }) => name);
  const pictures = useAsked(
    async (call) =>
      new Map(await Promise.all(names.map(async (name) => [name, await call.picture(name, 112, 70, ground)] as const))),
    [names.join(), ground],
  );
  return (
    <Strip aria-label="All charts">
      {pieces.map(({ name, title, kind }) => (
        <li key={name}>
          <Stamp {...(name === chosen ? { "aria-current": "true" } : {})} onPress={() => onChoose(name)}>
            {kind === "broken" ? (
              <Coral style={{ paddingTop: 26 }}>to mend</Coral>
            ) : (
              <StampPicture picture={pictures?.get(name)} />
            )}
            <span>
              {name}
              {title !== name && <i className="sr">: {title}</i>}
            </span>
          </Stamp>
        </li>
      ))}
    </Strip>
  );
}

/** Charts: one large and live, where its rows went, what could be better, and all others small. */
export function ChartsStation() {
  const desk = useDesk();
  const reply = useDeskState((state) => state.reply);
  const wanted = useDeskState((state) => state.piece);
  const pieces = reply?.pieces ?? [];
  const piece = pieces.find(({ name }) => name === wanted) ?? pieces.find(({ kind }) => kind === "chart") ?? pieces[0];
  const name = piece?.name ?? "";
  const from = piece?.from ?? "";
  const stages = reply?.knowledge.tables.get(from);
  const columns = stages?.at(-1) ?? [];
  const account = useAsked((call) => (name ? call.account(name) : undefined), [name]);
  const summary = useAsked((call) => (from ? call.summary(from, (stages?.length ?? 1) - 1) : undefined), [from]);
  const summaries = useMemo(() => new Map(summary), [summary]);
  const large = useRef<HTMLDivElement>(null);
  const advice = reply?.findings.filter((finding) => finding.piece === name) ?? [];
  useEffect(() => {
    if (name) desk.state.set({ hand: ["charts", name], piece: name });
  }, [desk, name]);
  if (!piece)
    return (
      <Quiet as="p" style={{ padding: 40 }}>
        {reply ? "This report draws nothing yet. Write charts: into the sheet; it proposes what can stand there." : ""}
      </Quiet>
    );
  return (
    <Frame>
      <Large>
        <PictureParts chart={name} />
        <Shown ref={large}>
          {piece.kind === "broken" ? (
            <Coral as="p" style={{ padding: 20 }}>
              {piece.problem}
            </Coral>
          ) : (
            <ProofSlot alone={name} />
          )}
        </Shown>
      </Large>
      <Under>
        <Account aria-label="From rows to marks">
          {account?.map(({ count: rows, what, lost, stage }) => (
            <li key={what}>
              <b>{count(rows)}</b>
              {stage === undefined ? (
                what
              ) : (
                <Press onPress={() => desk.state.set({ station: "tables", table: from, stage })}>{what}</Press>
              )}
              {lost && <small title={lost}>{lost}</small>}
            </li>
          ))}
        </Account>
        {advice.length > 0 && (
          <Advice aria-label="Advice">
            {advice.map((finding) => (
              <li key={`${finding.code} ${finding.message}`}>
                <span>{finding.message}</span>
                {finding.span && (
                  <Press onPress={() => finding.span && desk.show(finding.span.start, finding.span.end, true)}>
                    show
                  </Press>
                )}
                {finding.fix && <Press onPress={() => desk.mend(finding)}>{finding.fix.title}</Press>}
              </li>
            ))}
          </Advice>
        )}
      </Under>
      <Columns aria-label={`Columns of ${from}`}>
        <Quiet>columns of </Quiet>
        <b>{from}</b>
        <ul>
          {columns.map((column) => {
            const bars = summaries.get(column.name)?.bars ?? [];
            return (
              <li key={column.name}>
                <ColumnOnto chart={name} column={column} picture={() => large.current} />
                {bars.length > 0 && (
                  <Distribution bars={bars} width={62} height={16} label={`how ${column.name} spreads`} />
                )}
              </li>
            );
          })}
        </ul>
      </Columns>
      <Stamps pieces={pieces} chosen={name} onChoose={(next) => desk.state.set({ piece: next })} />
    </Frame>
  );
}
