"use client";

import { Dialog, Heading } from "react-aria-components";
import styled from "styled-components";
import { useDesk, useDeskState } from "../desk/desk-context";
import { answerIntake } from "../desk/intake";
import { Coral, count, Press, Quiet, StationTitle } from "./kit";

const Part = styled.section`
  padding-top: 8px;
  ul {
    list-style: none;
  }
  li {
    border-bottom: 1px solid var(--rule);
    padding: 3px 0;
  }
`;

const Foot = styled.p`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  padding-top: 12px;
`;

/** A file is here again: what is not as it was, what the sheet would say to it, and the choice. */
export function IntakeDialog() {
  const desk = useDesk();
  const intake = useDeskState((state) => state.intake);
  if (!intake) return null;
  const { path, replies } = intake;
  return (
    <Dialog aria-label={`${path} is here again`}>
      <StationTitle as={Heading} slot="title">
        {path} is here again
      </StationTitle>
      {replies.map(({ table, before, after, changes, findings }) => (
        <Part key={table} aria-label={`What changes for ${table}`}>
          <p>
            {table}: <b>{count(after)}</b> rows <Quiet>where there were {count(before)}</Quiet>
          </p>
          <ul>
            {changes
              .filter(({ what }) => what !== "rows")
              .sort((a, b) => Number(b.grave) - Number(a.grave))
              .map(({ says, grave }) => (
                <li key={says}>{grave ? <Coral>{says}</Coral> : says}</li>
              ))}
          </ul>
          {findings.length > 0 && (
            <>
              <p style={{ paddingTop: 8 }}>The sheet would then say:</p>
              <ul>
                {findings.slice(0, 8).map((finding) => (
                  <li key={finding}>
                    <Quiet>{finding}</Quiet>
                  </li>
                ))}
                {findings.length > 8 && <li>and {findings.length - 8} more</li>}
              </ul>
            </>
          )}
        </Part>
      ))}
      <Foot>
        <Press autoFocus onPress={() => answerIntake(desk, "replace")}>
          replace it
        </Press>
        <Press onPress={() => answerIntake(desk, "keep")}>keep the one that is there</Press>
        <Press onPress={() => answerIntake(desk, "beside")}>take it as another table</Press>
      </Foot>
      <Quiet as="p" style={{ paddingTop: 6 }}>
        Replaced or not, undo goes back one step.
      </Quiet>
    </Dialog>
  );
}
