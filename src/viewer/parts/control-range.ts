import { PickBound } from "../controls/bound";
import { CONTROLS } from "../controls/make";
import { PickDates, PickRange } from "../controls/range";

CONTROLS.add("pick range", (app, control, host) => new PickRange(app, control, host));
CONTROLS.add("pick dates", (app, control, host) => new PickDates(app, control, host));
for (const name of ["at_least", "at_most", "above", "below"])
  CONTROLS.add(`pick ${name}`, (app, control, host) => new PickBound(app, control, host));
