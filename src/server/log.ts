import pino from "pino";

/** Lines of what was asked and how it ended: sizes, times and codes, never a cell, a name or a text of anybody's. */
export const log = pino({ name: "still-harbor", base: null, level: process.env.STILL_LOG ?? "info" });
