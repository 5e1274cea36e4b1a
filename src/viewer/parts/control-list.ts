import { CONTROLS } from "../controls/make";
import { SetList } from "../controls/set-list";

CONTROLS.add("set list", (app, control, host) => new SetList(app, control, host));
