"use client";

import { useEffect, useState } from "react";
import { Dialog, Heading } from "react-aria-components";
import styled from "styled-components";
import { Coral, Quiet, StationTitle, Word } from "./kit";

interface GuidePart {
  title: string;
  /** Written from the house's own guide when the workbench is built. */
  html: string;
}

const Parts = styled.nav`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 20px;
  padding: 8px 0 6px;
  border-bottom: 1px solid var(--rule);
  position: sticky;
  top: -14px;
  background: var(--ground);
`;

const Text = styled.div`
  max-width: 84ch;
  h3 {
    font: 400 19px/1.3 var(--serif);
    margin: 20px 0 6px;
  }
  p,
  ul {
    margin: 8px 0;
  }
  ul {
    padding-left: 20px;
  }
  img {
    width: 100%;
    height: auto;
    border: 1px solid var(--rule);
    margin: 6px 0;
  }
  pre,
  code {
    font-family: var(--code);
    font-size: 13px;
  }
  pre {
    background: var(--sheet);
    padding: 8px 12px;
    overflow-x: auto;
  }
  table {
    border-collapse: collapse;
    width: 100%;
  }
  th,
  td {
    text-align: left;
    vertical-align: top;
    padding: 4px 14px 4px 0;
    border-bottom: 1px solid var(--rule);
  }
  th {
    color: var(--quiet);
    font-weight: 400;
  }
  em {
    font-style: normal;
    border-bottom: 1px solid var(--rule);
  }
`;

let fetched: Promise<GuidePart[]> | undefined;

/** Fetched once, when somebody first asks for it. */
function guideParts(): Promise<GuidePart[]> {
  fetched ??= fetch("/guide/guide.json").then((response) => {
    if (!response.ok) throw new Error(`the guide is not there (${response.status})`);
    return response.json() as Promise<GuidePart[]>;
  });
  fetched.catch(() => {
    fetched = undefined;
  });
  return fetched;
}

/** The guide in the order of the work, with a picture for each of its parts. */
export function Guide() {
  const [parts, setParts] = useState<GuidePart[]>();
  const [problem, setProblem] = useState<string>();
  const [at, setAt] = useState(0);
  useEffect(() => {
    guideParts().then(setParts, (fault: unknown) => setProblem(String(fault)));
  }, []);
  const part = parts?.[at];
  return (
    <Dialog aria-label="The guide">
      <StationTitle as={Heading} slot="title">
        The guide
      </StationTitle>
      {problem && <Coral role="alert">{problem}</Coral>}
      {!parts && !problem && <Quiet>opening …</Quiet>}
      <Parts aria-label="Parts of the guide">
        {parts?.map(({ title }, place) => (
          <Word key={title} {...(place === at ? { "aria-current": "true" } : {})} onPress={() => setAt(place)}>
            {title}
          </Word>
        ))}
      </Parts>
      {/* biome-ignore lint/security/noDangerouslySetInnerHtml: the house's own guide, rendered as it was built; nothing of a table or sheet is in it. */}
      {part && <Text dangerouslySetInnerHTML={{ __html: part.html }} />}
    </Dialog>
  );
}
