import type { Metadata } from "next";
import type { ReactNode } from "react";
import "@fontsource/source-sans-3/400.css";
import "@fontsource/source-sans-3/600.css";
import "@fontsource/source-serif-4/400.css";
import "@fontsource/source-code-pro/400.css";
import { StyleRegistry } from "../workbench/style-registry";

export const metadata: Metadata = {
  title: "Still Harbor",
  description: "Tables and a sheet in, one self-contained HTML dashboard out.",
};

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>
        <StyleRegistry>{children}</StyleRegistry>
      </body>
    </html>
  );
}
