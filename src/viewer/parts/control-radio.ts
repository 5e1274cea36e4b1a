import { CONTROLS } from "../controls/make";
import { PickRadio, SetRadio } from "../controls/radio";

CONTROLS.add("pick radio", (app, control, host) => new PickRadio(app, control, host));
CONTROLS.add("set radio", (app, control, host) => new SetRadio(app, control, host));
