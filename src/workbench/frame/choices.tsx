import { MenuItem, Popover } from "react-aria-components";
import styled from "styled-components";

/** A few choices beside the thing that they are of. */
export const Choices = styled(Popover)`
  width: 380px;
  overflow: auto;
  background: var(--sheet);
  border: 1px solid var(--ink);
  padding: 4px;
`;

/** One of them: its word, and what it means. */
export const PlainChoice = styled(MenuItem)`
  padding: 4px 8px;
  cursor: pointer;
  outline: none;
  color: var(--quiet);
  b {
    color: var(--ink);
  }
  &[data-selected] b {
    box-shadow: inset 0 -2px var(--brass);
  }
  &[data-focused] {
    background: var(--band);
  }
`;
