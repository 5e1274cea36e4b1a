"use client";

import { useServerInsertedHTML } from "next/navigation";
import { type ReactNode, useState } from "react";
import { ServerStyleSheet, StyleSheetManager } from "styled-components";
import { GlobalStyle } from "./global-style";

/** Gathers styles while the server renders, so that the first paint has them. */
export function StyleRegistry({ children }: { children: ReactNode }) {
  const [sheet] = useState(() => new ServerStyleSheet());
  useServerInsertedHTML(() => {
    const styles = sheet.getStyleElement();
    sheet.instance.clearTag();
    return <>{styles}</>;
  });
  const content = (
    <>
      <GlobalStyle />
      {children}
    </>
  );
  if (typeof window !== "undefined") return content;
  return <StyleSheetManager sheet={sheet.instance}>{content}</StyleSheetManager>;
}
