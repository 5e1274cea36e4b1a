import { CONTROLS } from "../controls/make";
import { PickRange } from "../controls/range";

CONTROLS.add("pick range", (app, control, host) => new PickRange(app, control, host));
