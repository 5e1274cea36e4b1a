"use client";

import { useEffect, useState } from "react";
import styled from "styled-components";
import { useDesk, useDeskState } from "../desk/desk-context";

const Small = styled.img`
  height: 22px;
  max-width: 60px;
  object-fit: contain;
  vertical-align: middle;
  margin-right: 6px;
`;

const TYPES: Record<string, string> = {
  png: "image/png",
  jpg: "image/jpeg",
  jpeg: "image/jpeg",
  gif: "image/gif",
  webp: "image/webp",
  svg: "image/svg+xml",
  avif: "image/avif",
};

/**
 * A picture as small as a row. Shown are pictures that are part of the report and those written in
 * the cell itself; addresses elsewhere are not asked for: a table must not call home.
 */
export function Thumbnail({ address }: { address: string }) {
  const desk = useDesk();
  const hash = useDeskState((state) => state.files.get(address));
  const [source, setSource] = useState<string>();
  useEffect(() => {
    if (/^data:image\/(?:png|jpeg|gif|webp|avif|svg\+xml)[;,]/.test(address)) return setSource(address);
    let made: string | undefined;
    let late = false;
    if (hash) {
      void Promise.resolve(desk.memory.get(hash) ?? desk.projects.bytes(hash)).then((bytes) => {
        if (!bytes || late) return;
        made = URL.createObjectURL(
          new Blob([bytes as BlobPart], {
            type: TYPES[/\.([a-z]+)$/i.exec(address)?.[1]?.toLowerCase() ?? ""] ?? "image/png",
          }),
        );
        setSource(made);
      });
    } else setSource(undefined);
    return () => {
      late = true;
      if (made) URL.revokeObjectURL(made);
    };
  }, [desk, address, hash]);
  return (
    <>
      {source && <Small src={source} alt="" />}
      {address.startsWith("data:") ? "" : address}
    </>
  );
}
