"use client";

import { Button } from "react-aria-components";
import styled from "styled-components";
import { useDesk, useDeskState } from "../desk/desk-context";
import { Coral } from "../frame/kit";
import type { PieceView } from "../worker/reply";
import { useAsked } from "./ask";
import { PictureOf } from "./picture-of";

const Strip = styled.ul`
  grid-column: 1 / -1;
  list-style: none;
  display: flex;
  gap: 18px;
  padding: 0 16px;
  border-top: 1px solid var(--rule);
  overflow-x: auto;
  /* The way to another chart stays in sight, however many there are. */
  li:last-child {
    position: sticky;
    right: 0;
    background: var(--ground);
    padding-left: 14px;
    border-left: 1px solid var(--rule);
  }
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

const PLUS = { type: "figure", value: "+", unit: "" } as const;

/** All charts of the report as small live pictures; press one to have it large, the last to add another. */
export function ChartStrip({ pieces, chosen }: { pieces: readonly PieceView[]; chosen: string | undefined }) {
  const desk = useDesk();
  const ground = useDeskState((state) => state.ground);
  const isAdding = useDeskState((state) => state.isAdding);
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
          <Stamp
            {...(name === chosen ? { "aria-current": "true" } : {})}
            onPress={() => desk.state.set({ piece: name, isAdding: false })}
          >
            {kind === "broken" ? (
              <Coral style={{ paddingTop: 26 }}>to mend</Coral>
            ) : (
              <PictureOf picture={pictures?.get(name)} height={72} />
            )}
            <span>
              {name}
              {title !== name && <i className="sr">: {title}</i>}
            </span>
          </Stamp>
        </li>
      ))}
      <li>
        <Stamp {...(isAdding ? { "aria-current": "true" } : {})} onPress={() => desk.state.set({ isAdding: true })}>
          <PictureOf picture={PLUS} height={72} />
          <span>new chart</span>
        </Stamp>
      </li>
    </Strip>
  );
}
