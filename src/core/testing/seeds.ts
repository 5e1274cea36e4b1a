import fc from "fast-check";

// The test run draws the same cases every time; FREE_SEEDS=1 draws new ones.
if (!process.env.FREE_SEEDS) fc.configureGlobal({ seed: 20_240_301 });
