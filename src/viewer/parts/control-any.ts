import { Conditions } from "../controls/conditions";
import { CONTROLS } from "../controls/make";

CONTROLS.add("any", (app, control, host) => new Conditions(app, control, host));
