import { CONTROLS } from "../controls/make";
import { SetSlider } from "../controls/slider";

CONTROLS.add("set slider", (app, control, host) => new SetSlider(app, control, host));
