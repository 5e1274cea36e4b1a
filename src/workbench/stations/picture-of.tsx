"use client";

import type { Picture } from "../../core/look/pictures";
import { count } from "../frame/kit";

/** A small picture of a piece, or what stands in for one, in its middle. */
export function PictureOf({ picture, height }: { picture: Picture | undefined; height: number }) {
  if (!picture) return <div />;
  // biome-ignore lint/security/noDangerouslySetInnerHtml: the core writes this SVG from its own scene; every text in it is escaped there.
  if (picture.type === "svg") return <div aria-hidden="true" dangerouslySetInnerHTML={{ __html: picture.svg }} />;
  if (picture.type === "figure") return <big>{picture.value}</big>;
  return (
    <div style={{ paddingTop: height / 2 - 10, color: "var(--quiet)" }}>
      {picture.type === "rows" ? `${count(picture.rows)} rows` : picture.words}
    </div>
  );
}
