"use client";

import { useEffect, useState } from "react";
import styled from "styled-components";
import type { FoundMarks } from "../../core/finding/finding";
import { useDesk, useDeskState } from "../desk/desk-context";
import { Press } from "../frame/kit";
import { lighting } from "../proof/proof-place";

const List = styled.ul`
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
  li.lit {
    background: var(--band);
  }
`;

/** What could be better in a chart, each with its reason, its marks lit in the chart, and a way out in one press. */
export function AdviceList({ chart }: { chart: string }) {
  const desk = useDesk();
  const findings = useDeskState((state) => state.reply?.findings);
  /** The advice whose marks stay lit until it is pressed again. */
  const [held, setHeld] = useState<string>();
  const advice = findings?.filter(({ piece }) => piece === chart) ?? [];
  const light = (marks: FoundMarks | undefined) => lighting.set({ piece: marks && chart, marks });
  const kept = advice.find(({ message }) => message === held)?.marks;
  // Nothing stays lit of a chart that is left, nor of an advice that was taken.
  useEffect(() => {
    lighting.set({ piece: kept && chart, marks: kept });
    return () => lighting.set({ piece: undefined, marks: undefined });
  }, [chart, kept]);
  if (advice.length === 0) return null;
  return (
    <List aria-label="Advice">
      {advice.map((finding) => {
        const { code, marks, message, span, fix } = finding;
        return (
          <li
            key={`${code} ${message}`}
            className={held === message ? "lit" : undefined}
            onPointerEnter={() => marks && light(marks)}
            onPointerLeave={() => light(kept)}
          >
            <span>{message}</span>
            {marks && (
              <Press
                aria-pressed={held === message}
                onFocus={() => light(marks)}
                onBlur={() => light(kept)}
                onPress={() => setHeld(held === message ? undefined : message)}
              >
                light them
              </Press>
            )}
            {span && <Press onPress={() => desk.show(span.start, span.end, true)}>show</Press>}
            {fix && <Press onPress={() => desk.mend(finding)}>{fix.title}</Press>}
          </li>
        );
      })}
    </List>
  );
}
