declare module "fontkit" {
  export function create(bytes: Uint8Array): unknown;
}
declare module "subset-font" {
  export default function subsetFont(
    bytes: Uint8Array,
    text: string,
    options: { targetFormat: "woff2"; noLayoutClosure?: boolean },
  ): Promise<Uint8Array>;
}
