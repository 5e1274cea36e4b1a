"use client";

import { Button, Header, Menu, MenuSection, MenuTrigger } from "react-aria-components";
import styled from "styled-components";
import { freeName } from "../../core/advice/write-suggestions";
import type { PartName } from "../../core/chart/part-names";
import type { PicturePart } from "../../core/look/parts";
import { removeValue } from "../../core/sheet/edit/edit";
import { duplicateEntry, moveEntry } from "../../core/sheet/edit/entry-edit";
import { useDesk, useDeskState } from "../desk/desk-context";
import { editOver } from "../desk/standing-text";
import { Choices, PlainChoice } from "../frame/choices";
import { Quiet } from "../frame/kit";
import { useAsked } from "./ask";

const Bar = styled.div`
  display: flex;
  gap: 0 18px;
  padding: 4px 20px 0;
  min-height: 30px;
  align-items: baseline;
  overflow-x: auto;
  white-space: nowrap;
`;

const Part = styled(Button)`
  font: inherit;
  background: none;
  border: 0;
  padding: 2px 0;
  cursor: pointer;
  max-width: 210px;
  overflow: hidden;
  text-overflow: ellipsis;
  &[data-hovered],
  &[aria-expanded="true"] {
    color: var(--sea);
    box-shadow: inset 0 -1px var(--sea);
  }
`;

const Head = styled(Header)`
  padding: 6px 8px 0;
  color: var(--quiet);
  font-size: 12px;
`;

const Choice = styled(PlainChoice)`
  padding: 2px 8px;
  color: var(--ink);
`;

/** What a part is to somebody who looks at the picture. */
const WORDS: Record<PartName, string> = { title: "title", x: "across", y: "up", color: "colour", marks: "drawn as" };

/**
 * The parts of the large chart, each with its few choices: pressed here, or on the picture itself. What is chosen is
 * written into the sheet and seen at once.
 */
export function PictureParts({ chart }: { chart: string }) {
  const answer = useAsked((call) => call.parts(chart), [chart]);
  return (
    <Bar role="toolbar" aria-label="Parts of the chart">
      {answer?.parts.map((part) => (
        <OnePart key={part.part} part={part} chart={chart} />
      ))}
      <span style={{ flex: 1 }} />
      <WholeChart chart={chart} />
    </Bar>
  );
}

const DEEDS = {
  earlier: "stands earlier",
  later: "stands later",
  duplicate: "another like it",
  remove: "take it out",
} as const;

/** What is done with a chart as a whole, in the sheet: its place among the others, another like it, none of it. */
function WholeChart({ chart }: { chart: string }) {
  const desk = useDesk();
  const names = useDeskState((state) => state.reply?.knowledge.charts) ?? [];
  const path = ["charts"];
  const text = () => desk.state.get().text;
  const duplicate = () => {
    const as = freeName(chart, new Set(names));
    desk.edit(duplicateEntry(text(), path, chart, as));
    desk.state.set({ piece: as });
  };
  const remove = () => {
    desk.edit(removeValue(text(), [...path, chart]));
    desk.state.set({ piece: undefined });
  };
  const at = names.indexOf(chart);
  if (at < 0) return null;
  const move = (by: number) => desk.edit(moveEntry(text(), path, chart, by));
  const deeds = { earlier: () => move(-1), later: () => move(1), duplicate, remove };
  const disabled = [...(at === 0 ? ["earlier"] : []), ...(at === names.length - 1 ? ["later"] : [])];
  return (
    <MenuTrigger>
      <Part>this chart</Part>
      <Choices placement="bottom end" style={{ width: 160 }}>
        <Menu
          aria-label="This chart"
          disabledKeys={disabled}
          onAction={(key) => deeds[String(key) as keyof typeof deeds]()}
        >
          {Object.entries(DEEDS).map(([key, words]) => (
            <Choice key={key} id={key} textValue={words}>
              {words}
            </Choice>
          ))}
        </Menu>
      </Choices>
    </MenuTrigger>
  );
}

function OnePart({ part: { part, words, groups }, chart }: { part: PicturePart; chart: string }) {
  const desk = useDesk();
  const isOpen = useDeskState((state) => state.part) === part;
  const choose = (key: string) => {
    const [at, choice] = key.split(" ").map(Number) as [number, number];
    const group = groups[at];
    const says = group?.choices[choice]?.says;
    return editOver(desk, async (call) => {
      const { text, parts } = await call.parts(chart);
      const same = parts.find((one) => one.part === part)?.groups.find(({ name }) => name === group?.name);
      return { text, edits: same?.choices.find((one) => one.says === says)?.edits };
    });
  };
  return (
    <MenuTrigger isOpen={isOpen} onOpenChange={(open) => desk.state.set({ part: open ? part : undefined })}>
      <Part aria-label={`${WORDS[part]}: ${words}`}>
        <Quiet>{WORDS[part]}</Quiet> {words}
      </Part>
      <Choices placement="bottom start" style={{ width: 240 }}>
        <Menu aria-label={`${WORDS[part]}: ${words}`} onAction={(key) => void choose(String(key))}>
          {groups.map(({ name, choices }, group) => (
            <MenuSection
              key={name}
              selectionMode="single"
              selectedKeys={choices.flatMap(({ isNow }, at) => (isNow ? [`${group} ${at}`] : []))}
            >
              <Head>{name}</Head>
              {choices.map(({ says }, at) => (
                <Choice key={says} id={`${group} ${at}`} textValue={`${name} ${says}`}>
                  <b>{says}</b>
                </Choice>
              ))}
            </MenuSection>
          ))}
        </Menu>
      </Choices>
    </MenuTrigger>
  );
}
