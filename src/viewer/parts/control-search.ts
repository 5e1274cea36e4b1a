import { CONTROLS } from "../controls/make";
import { Search } from "../controls/search";

CONTROLS.add("search", (app, control, host) => new Search(app, control, host));
