import { CONTROLS } from "../controls/make";
import { PickDates } from "../controls/range";

CONTROLS.add("pick dates", (app, control, host) => new PickDates(app, control, host));
