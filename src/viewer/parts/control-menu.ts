import { CONTROLS } from "../controls/make";
import { PickMenu, PickMenus, SetMenu } from "../controls/menu";

CONTROLS.add("pick menu", (app, control, host) => new PickMenu(app, control, host));
CONTROLS.add("pick menus", (app, control, host) => new PickMenus(app, control, host));
CONTROLS.add("set menu", (app, control, host) => new SetMenu(app, control, host));
