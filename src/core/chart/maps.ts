import { Optional } from "../finding/kit";
import type { drawMap } from "./map";

/** What lays a map under marks; a report without maps does without it. */
export const MAPS = new Optional<typeof drawMap>("maps");
