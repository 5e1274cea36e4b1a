import { Checkboxes } from "../controls/checkboxes";
import { CONTROLS } from "../controls/make";

CONTROLS.add("pick checkboxes", (app, control, host) => new Checkboxes(app, control, host));
