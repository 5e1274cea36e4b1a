import { Opening } from "../open/fresh-rows";
import { OPENS } from "../open/kit";

OPENS.add("open", (loaded) => new Opening(loaded));
