import { add } from "./add";
import { only, rename } from "./columns";
import { density, smooth } from "./curves";
import { fill, fillForward } from "./fill";
import { first, last, sample } from "./first";
import { group } from "./group";
import { join } from "./join";
import { keep } from "./keep";
import { pivot, unpivot } from "./pivot";
import { STEPS } from "./run";
import { sort } from "./sort";
import { stack } from "./stack";
import type { StepKind, StepName } from "./step";
import { unique } from "./unique";
import { words } from "./words";

/** Every kind of step by its name. */
const KINDS: { [Name in StepName]: StepKind<Name> } = {
  keep,
  add,
  only,
  rename,
  unique,
  group,
  sort,
  first,
  last,
  sample,
  unpivot,
  pivot,
  join,
  stack,
  fill,
  fill_forward: fillForward,
  smooth,
  density,
  words,
};

/**
 * All steps are there wherever dashboards are made. The kind belongs to the step by its name; the types cannot
 * say so of a union.
 */
for (const [name, kind] of Object.entries(KINDS)) STEPS.add(name, kind as unknown as StepKind<StepName>);
