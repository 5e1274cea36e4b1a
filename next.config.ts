import type { NextConfig } from "next";

const config: NextConfig = {
  compiler: { styledComponents: true },
  reactStrictMode: true,
  poweredByHeader: false,
  // On this machine itself nothing is won by packing what is sent, and half a second is lost at every opening.
  compress: !["127.0.0.1", "localhost", undefined].includes(process.env.HOST),
  // Types are checked by `./still test`; the build need not do it again.
  typescript: { ignoreBuildErrors: true },
};

export default config;
