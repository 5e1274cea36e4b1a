import type { Metadata } from "next";
import { headers } from "next/headers";
import type { ReactNode } from "react";
import "@fontsource/source-sans-3/400.css";
import "@fontsource/source-sans-3/600.css";
import "@fontsource/source-serif-4/400.css";
import "@fontsource/source-code-pro/400.css";
import "@fontsource/source-code-pro/600.css";
import { StyleRegistry } from "../workbench/style-registry";

export const metadata: Metadata = {
  title: "Still Harbor",
  description: "Tables and a sheet in, one self-contained HTML dashboard out.",
};

/** The ground as it was left, and whether anybody was here before, before anything is painted. */
const AS_LEFT = `try{if(localStorage.getItem("still-harbor last")===null&&!location.search)document.documentElement.dataset.firstVisit="";if((localStorage.getItem("still-harbor ground")||(matchMedia("(prefers-color-scheme:dark)").matches?"dark":"light"))==="dark")document.documentElement.dataset.ground="dark"}catch{}`;

export default async function RootLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get("x-nonce") ?? undefined;
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        {/* biome-ignore lint/security/noDangerouslySetInnerHtml: the page's own words, no text of anybody's. */}
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: AS_LEFT }} />
        <StyleRegistry>{children}</StyleRegistry>
      </body>
    </html>
  );
}
