import { PickBound } from "../controls/bound";
import { CONTROLS } from "../controls/make";

for (const name of ["at_least", "at_most", "above", "below"])
  CONTROLS.add(`pick ${name}`, (app, control, host) => new PickBound(app, control, host));
