"use client";

import { Button } from "react-aria-components";
import styled from "styled-components";

/** The few elements of which every screen is made. Words are pressed; nothing sits in a box. */

export const Press = styled(Button)`
  font: inherit;
  color: var(--sea);
  background: none;
  border: 0;
  padding: 2px 0;
  text-align: left;
  text-decoration: underline;
  text-decoration-thickness: 1px;
  text-underline-offset: 3px;
  cursor: pointer;
  &[data-hovered] {
    text-decoration-thickness: 2px;
  }
  &[data-disabled] {
    color: var(--quiet);
    cursor: default;
    text-decoration: none;
  }
`;

/** A press without an underline, for rows of words that stand together. */
export const Word = styled(Press)`
  color: var(--quiet);
  text-decoration: none;
  white-space: nowrap;
  &[data-hovered] {
    color: var(--sea);
  }
  &[aria-pressed="true"],
  &[aria-current] {
    color: var(--ink);
    font-weight: 600;
  }
`;

export const Quiet = styled.span`
  color: var(--quiet);
`;

export const Coral = styled.span`
  color: var(--coral);
`;

export const StationTitle = styled.h2`
  font: 400 19px/1.3 var(--serif);
`;

export const count = (value: number) => String(value).replace(/\B(?=(?:\d{3})+$)/g, ",");

/** `1 chart`, `2 charts`. */
export const many = (value: number, noun: string) => `${count(value)} ${noun}${value === 1 ? "" : "s"}`;

export function weight(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  return bytes < 1_000_000 ? `${Math.round(bytes / 1000)} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;
}

/** A moment as somebody says it who was there lately: day, month, time. */
export const when = (time: number) =>
  new Date(time).toLocaleString("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });
