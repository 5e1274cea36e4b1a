import type { NextConfig } from "next";

const config: NextConfig = {
  compiler: { styledComponents: true },
  reactStrictMode: true,
  poweredByHeader: false,
  // Types are checked by `./still test`; the build need not do it again.
  typescript: { ignoreBuildErrors: true },
};

export default config;
