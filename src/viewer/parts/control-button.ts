import { ActButton } from "../controls/act";
import { CONTROLS } from "../controls/make";

CONTROLS.add("button", (app, control, host) => new ActButton(app, control, host));
