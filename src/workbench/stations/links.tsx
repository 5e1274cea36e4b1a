"use client";

import { Header, Menu, MenuSection, MenuTrigger } from "react-aria-components";
import styled from "styled-components";
import type { EffectName } from "../../core/link/effects/index";
import { type GestureName, gestureSpec } from "../../core/link/gestures/index";
import type { LinkMatrix, LinkRow } from "../../core/look/matrix";
import { addLink, type LinkSource, setLinkEffect } from "../../core/sheet/edit/link-edit";
import { useDesk, useDeskState } from "../desk/desk-context";
import { compiled } from "../desk/standing-text";
import { useStore } from "../desk/store";
import { Choices } from "../frame/choices";
import { Quiet, StationTitle } from "../frame/kit";
import { proofPlace } from "../proof/proof-place";
import { ProofSlot } from "../proof/proof-slot";
import { CellButton, Choice, LinkSquare } from "./link-square";

const Frame = styled.div`
  display: grid;
  grid-template-columns: minmax(300px, auto) minmax(300px, 1fr);
  height: 100%;
  @media (max-width: 640px) {
    grid-template: minmax(0, 46%) minmax(0, 1fr) / minmax(0, 1fr);
  }
`;

const Left = styled.section`
  overflow: auto;
  max-width: 58vw;
  padding: 10px 18px 20px;
  border-right: 1px solid var(--rule);
  min-height: 0;
  @media (max-width: 640px) {
    max-width: none;
    border-right: 0;
    border-bottom: 1px solid var(--ink);
  }
`;

const Right = styled.section`
  display: grid;
  grid-template-rows: 30px minmax(0, 1fr);
  min-height: 0;
  min-width: 0;
  > div:first-child {
    padding: 2px 14px 0;
    line-height: 26px;
    border-bottom: 1px solid var(--rule);
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;

const Begin = styled.div`
  display: flex;
  gap: 2px 10px;
  align-items: baseline;
  overflow-x: auto;
  b {
    font-weight: 600;
  }
  button {
    color: var(--sea);
  }
`;

const Adding = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  margin: 10px 0 0 -6px;
  button {
    color: var(--sea);
  }
`;

const SectionHead = styled(Header)`
  padding: 8px 8px 2px;
  font-weight: 600;
`;

const Sentences = styled.div`
  margin-top: 18px;
  padding: 10px 12px;
  /* As wide as the square above, which longer sentences do not push. */
  width: 0;
  min-width: 100%;
  background: var(--sheet);
  border-top: 1px solid var(--rule);
  font: 13px/20px var(--code);
  white-space: pre-wrap;
`;

/**
 * A sentence for a gesture that is new on a source; two selections of one source need names, but for those that
 * come and go.
 */
function newSentence({ rows }: LinkMatrix, source: string, gesture: GestureName): string {
  const isNamed = rows.some((row) => row.source === source) && gestureSpec(gesture).suffix === "";
  const name = isNamed ? ` as ${source}_${gesture.replace(/\W/g, "_")}` : "";
  return `${gesture} on ${source}${name} -> ${gestureSpec(gesture).kept ? "filter" : "highlight"} all`;
}

/** Over the dashboard: what readers may do on the chart that was pressed there, each begun by one press. */
function OnPressed({ matrix, begin }: { matrix: LinkMatrix | undefined; begin: (sentence: string) => void }) {
  const marked = useDeskState((state) => state.marked);
  const target = matrix?.targets.find(({ name }) => name === marked);
  if (!matrix || !target)
    return <Quiet>Use it, and its row lights up. Press a chart to say what readers can do there.</Quiet>;
  if (target.gestures.length === 0) return <Quiet>{target.title}: every gesture that it takes is in use.</Quiet>;
  return (
    <Begin role="toolbar" aria-label={`What readers can do on ${target.title}`}>
      <b>{target.title}</b>
      <Quiet>let readers</Quiet>
      {target.gestures.map((gesture) => (
        <CellButton key={gesture} onPress={() => begin(newSentence(matrix, target.name, gesture))}>
          {gesture}
        </CellButton>
      ))}
    </Begin>
  );
}

/** What can be added: a gesture on a chart, or everything with everything for all charts of a table. */
function More({ matrix, text, add }: { matrix: LinkMatrix; text: string; add: (sentence: string) => void }) {
  const { targets } = matrix;
  const tables = [...new Set(targets.map(({ table }) => table))].filter(
    (table) =>
      targets.filter((one) => one.table === table).length > 1 &&
      !new RegExp(`cross-filter\\s+${table.replace(/\W/g, "\\$&")}(?![\\w])`).test(text),
  );
  return (
    <Adding>
      <MenuTrigger>
        <CellButton>a gesture more</CellButton>
        <Choices placement="bottom start">
          <Menu
            aria-label="A gesture more"
            onAction={(key) => {
              const [source = "", gesture = ""] = String(key).split(":");
              add(newSentence(matrix, source, gesture as GestureName));
            }}
          >
            {targets
              .filter(({ gestures }) => gestures.length > 0)
              .map((target) => (
                <MenuSection key={target.name}>
                  <SectionHead>{target.title}</SectionHead>
                  {target.gestures.map((gesture) => (
                    <Choice key={gesture} id={`${target.name}:${gesture}`} textValue={`${target.title} ${gesture}`}>
                      <b>{gesture}</b>
                      {gestureSpec(gesture).says}
                    </Choice>
                  ))}
                </MenuSection>
              ))}
          </Menu>
        </Choices>
      </MenuTrigger>
      {tables.map((table) => (
        <CellButton key={table} onPress={() => add(`cross-filter ${table}`)}>
          everything with everything in {table}
        </CellButton>
      ))}
    </Adding>
  );
}

/** A row as the writer of sentences needs it. */
const sourceOf = ({ targets }: LinkMatrix, { sentences, head, source, cells }: LinkRow): LinkSource => ({
  sentences,
  head: head ?? source,
  all: (effect) =>
    targets.flatMap(({ name }, at) => (name !== source && cells[at]?.choices.includes(effect) ? [name] : [])),
});

/** Links: who drives whom as a square to read, and the dashboard beside it to try it. */
export function LinksStation() {
  const desk = useDesk();
  const matrix = useDeskState((state) => state.reply?.matrix);
  const text = useDeskState((state) => state.replyText);
  const box = useStore(proofPlace, (place) => place.box);
  const turn = (row: LinkRow) =>
    desk.state.set({
      hand:
        row.sentences[0] === undefined
          ? [row.gesture === "control" ? "controls" : "charts", row.source]
          : ["links", row.sentences[0]],
      marked: row.source,
    });
  const choose = async (shown: LinkRow, target: string, effect: EffectName | undefined) => {
    // Places of sentences are those of the compiled text, which may be another than the one that is shown.
    if (!(await compiled(desk))) return;
    const { reply, text: now } = desk.state.get();
    const row = reply?.matrix.rows.find(({ selection }) => selection === shown.selection);
    const edits = reply && row && setLinkEffect(now, sourceOf(reply.matrix, row), target, effect);
    if (edits?.length) desk.edit(edits);
    else desk.state.set({ notice: "that is said by cross-filter, which can be taken out of the links below" });
  };
  const add = (sentence: string) => desk.edit(addLink(desk.state.get().text, sentence) ?? []);
  const sentences = /^links:\s*\n((?:[ \t-].*\n?|\s*\n)*)/m.exec(text)?.[1]?.trimEnd() ?? "";
  return (
    <Frame>
      <Left aria-labelledby="drives">
        <StationTitle id="drives">Who drives whom</StationTitle>
        {matrix && matrix.rows.length > 0 ? (
          <LinkSquare matrix={matrix} turn={turn} choose={(...chosen) => void choose(...chosen)} />
        ) : (
          <Quiet as="p" style={{ paddingTop: 12 }}>
            Nothing drives anything yet. Write links: into the sheet, such as - cross-filter and the name of a table.
          </Quiet>
        )}
        {matrix && <More matrix={matrix} text={text} add={add} />}
        {sentences && <Sentences aria-label="Links as written">{sentences.replace(/^ {2}/gm, "")}</Sentences>}
      </Left>
      <Right aria-label="Proof">
        <div>
          <OnPressed matrix={matrix} begin={add} />
        </div>
        <ProofSlot width={box && box.width > 500 ? 860 : 0} />
      </Right>
    </Frame>
  );
}
