/**
 * Features of the browser that nothing here is about. The first two are pages of the browser's own, loaded for the
 * address line of every new window: over a second of processor for each test. The others are those that the driver
 * switches off by itself; as a later list takes the place of an earlier one, they are said again.
 */
const SWITCHED_OFF = [
  "WebUIOmniboxPopup",
  "WebUIOmniboxAimPopup",
  "AimEnabled",
  "AvoidCorsURLLoaderRestartOnRedirect",
  "AvoidUnnecessaryBeforeUnloadCheckSync",
  "DestroyProfileOnBrowserClose",
  "HttpsFirstBalancedModeAutoEnable",
  "HttpsUpgrades",
  "LensOverlay",
  "MediaRouter",
  "NetworkTimeServiceQuerying",
  "OptimizationHints",
  "PaintHolding",
  "PreconnectToSearch",
  "ThirdPartyStoragePartitioning",
];

/** Debian's Chromium, never a browser of a package's own, as tests and benches start it. */
export const CHROMIUM = {
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
  args: [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    `--disable-features=${SWITCHED_OFF.join(",")}`,
  ],
};
